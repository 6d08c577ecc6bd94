/** Before each file of component tests: what the page finds in a browser and not here. */
import "fake-indexeddb/auto";
import { configure } from "@testing-library/dom";
import { afterEach, beforeEach, expect, vi } from "vitest";

import { leave } from "./bench";
import { standing } from "./server";

const LONGEST_WAIT_MS = 40_000;
const AUTOSAVE_MS = "50";

if (!process.env.LEADSMAN_API)
  throw new Error(
    "Component tests ask a server of their own for every answer: run ./leadsman test -k components",
  );

configure({
  asyncUtilTimeout: LONGEST_WAIT_MS,
  getElementError: (message) => new Error(message ?? ""), // without the whole page
});

const autosave = document.createElement("meta");
autosave.name = "autosave-ms";
autosave.content = AUTOSAVE_MS;
document.head.append(autosave);

/** Previews are asked for by a worker: browser tests drag. */
class NoWorker {
  onmessage = null;
  postMessage() {}
  terminate() {}
}
vi.stubGlobal("Worker", NoWorker);
vi.stubGlobal("fetch", standing(globalThis.fetch));

/** Every picture has room: nothing is laid out here. */
class Roomy {
  constructor(private readonly tell: ResizeObserverCallback) {}
  observe(target: Element) {
    const contentRect = new DOMRectReadOnly(0, 0, 800, 400);
    const size = [{ inlineSize: 800, blockSize: 400 }];
    const entry = {
      target,
      contentRect,
      contentBoxSize: size,
      borderBoxSize: size,
      devicePixelContentBoxSize: size,
    };
    queueMicrotask(() => this.tell([entry], this));
  }
  unobserve() {}
  disconnect() {}
}
vi.stubGlobal("ResizeObserver", Roomy);

/** What the page gives up on is not heard of here: the library writes of every request that was let go. */
const letGo = (said: unknown) =>
  said instanceof Error && (said.name === "AbortError" || ("code" in said && said.code === "ECONNRESET"));
/** The answer of the server that there is none, as for a plan without a background. */
const answered = (said: unknown) => typeof said === "string" && /^[A-Z]+ http:\S+ 4\d\d /.test(said);

let written: unknown[] = [];
console.error = (...said: unknown[]) => {
  if (!letGo(said[0]) && !answered(said[0])) written.push(said);
};

beforeEach(() => {
  written = [];
});
afterEach(() => {
  leave();
  expect(written, "the page wrote to the console").toEqual([]);
});
