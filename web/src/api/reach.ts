/** How a request reaches the server, and what stands in for its answer where it does not. */
import { isKept, useUnreached } from "./unreached";

/** No answer came: the server or the way to it is down. */
export class Unreachable extends Error {}

export async function reach(request: Request): Promise<Response> {
  const asked = isKept(request) // a save is on its way at once: the page may be closing
    ? { url: request.url, said: request.method === "POST" ? await request.clone().text() : "" }
    : null;
  let response: Response;
  let body: string | null = null;
  try {
    response = await fetch(request);
    if (asked && response.ok) body = await response.text();
  } catch (error) {
    if (request.signal.aborted) throw error; // we let it go ourselves
    useUnreached.setState((before) => ({ since: before.since ?? Date.now() }));
    const kept =
      asked && (await import("./keptAnswers").then((on) => on.keptAnswer(asked)).catch(() => null));
    if (kept) return kept;
    throw new Unreachable("Leadsman's server does not answer.");
  }
  if (useUnreached.getState().since !== null) useUnreached.setState({ since: null });
  if (asked === null || body === null) return response;
  const text = body;
  void import("./keptAnswers").then(({ keep }) => keep(asked, text)).catch(() => undefined);
  return new Response(body, { status: response.status, headers: response.headers });
}
