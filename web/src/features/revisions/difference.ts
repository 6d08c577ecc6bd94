/** Differences between two versions of a document, said so that people can choose. */
import jsonPatch from "fast-json-patch";

import type { Design } from "../../api/types";
import { figureOf } from "../../shared/figure";

export interface Difference {
  /** which figure, as "Low leg, length" */
  where: string;
  before: string;
  after: string;
}

const LONGEST = 40;

/** The figures that differ, in the order of the document; parts that came or went are one line each. */
export function differences(before: Design, after: Design): Difference[] {
  const found = new Map<string, Difference>();
  for (const step of jsonPatch.compare(byId(before), byId(after))) {
    const part = step.path.split("/").slice(1, 3);
    const whole = step.path.split("/").length === 3 && step.op !== "replace";
    const where = whole
      ? nameOf(step.op === "remove" ? before : after, part)
      : figureOf(byId, step.path, before, after);
    const [was, is] = [valueAt(byId(before), step.path), valueAt(byId(after), step.path)];
    const key = where;
    if (!found.has(key))
      found.set(key, {
        where,
        before: whole ? (step.op === "remove" ? "there" : "–") : text(was),
        after: whole ? (step.op === "remove" ? "deleted" : "new") : text(is),
      });
  }
  return [...found.values()];
}

type ById = Record<string, unknown>;

/** A document with its lists as records by id, so that a part that is deleted does not shift the others. */
function byId(document: Design): ById {
  return Object.fromEntries(
    Object.entries(document as unknown as Record<string, unknown>).map(([key, value]) => [
      key,
      Array.isArray(value) &&
      value.every((one: unknown) => one !== null && typeof one === "object" && "id" in one)
        ? Object.fromEntries((value as { id: string }[]).map((one) => [one.id, one]))
        : value,
    ]),
  );
}

function nameOf(document: Design, [kind = "", id = ""]: string[]): string {
  const part = (byId(document)[kind] as Record<string, { name?: string }> | undefined)?.[unescaped(id)];
  return `${part?.name ?? unescaped(id)}, ${kind.replace(/s$/, "")}`;
}

const unescaped = (text: string) => text.replaceAll("~1", "/").replaceAll("~0", "~");

function valueAt(document: ById, path: string): unknown {
  return path
    .split("/")
    .slice(1)
    .reduce<unknown>(
      (at, key) => (at as Record<string, unknown> | null | undefined)?.[unescaped(key)],
      document,
    );
}

function text(value: unknown): string {
  if (value === undefined || value === null) return "–";
  const said = typeof value === "string" ? value : JSON.stringify(value);
  return said.length > LONGEST ? `${said.slice(0, LONGEST - 1)}…` : said;
}
