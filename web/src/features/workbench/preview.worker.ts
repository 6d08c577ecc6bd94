/**
 * Asks for what is shown while a plan changes. It runs beside the page, so that no question has to wait while the page
 * draws. One question goes on to its end, so that something is shown while the hand moves; beside it the newest is
 * asked at once, in place of the newest before, so that nothing is waited for when the hand rests.
 */
import { preview } from "../../api/client";
import type { Preview } from "../../api/types";

/** A number that rises with every change, and the request's body as text. */
export interface PreviewAsked {
  number: number;
  body: string;
}

let oldest: AbortController | null = null;
let newest: AbortController | null = null;

async function ask(body: string) {
  const own = new AbortController();
  if (!oldest) oldest = own;
  else {
    newest?.abort();
    newest = own;
  }
  try {
    postMessage((await preview(body, own.signal)) satisfies Preview);
    if (own === newest) oldest.abort(); // what it would tell is older
  } catch {
    // let go, or refused: the whole answer that follows says what is wrong
  }
  if (own === newest) newest = null;
  if (own === oldest) [oldest, newest] = [newest, null];
}

addEventListener("message", ({ data }: MessageEvent<PreviewAsked>) => void ask(data.body));
