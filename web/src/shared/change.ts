/** What differs between two documents of which one was made from the other: what did not change is the same object. */
import type { Design } from "../api/types";

/** Values by their keys (undefined where one went), and parts of lists as long as before by their numbers. */
export interface Change {
  values: Record<string, unknown>;
  parts: Record<string, [number, unknown][]>;
}

type Values = Record<string, unknown>;

export function changeBetween(before: Design | null, after: Design): Change {
  const old = (before ?? {}) as unknown as Values;
  const now = after as unknown as Values;
  const change: Change = { values: {}, parts: {} };
  for (const key of new Set([...Object.keys(old), ...Object.keys(now)])) {
    const [was, is] = [old[key], now[key]];
    if (was === is) continue;
    if (Array.isArray(was) && Array.isArray(is) && was.length === is.length)
      change.parts[key] = is.flatMap((part: unknown, number) =>
        part === was[number] ? [] : [[number, part] as [number, unknown]],
      );
    else change.values[key] = is;
  }
  return change;
}

export function changed(before: Design | null, { values, parts }: Change): Design {
  const document: Values = { ...(before as unknown as Values | null), ...values };
  for (const [key, list] of Object.entries(parts)) {
    const whole = [...(document[key] as unknown[])];
    for (const [number, part] of list) whole[number] = part;
    document[key] = whole;
  }
  for (const [key, value] of Object.entries(values))
    if (value === undefined) Reflect.deleteProperty(document, key);
  return document as unknown as Design;
}
