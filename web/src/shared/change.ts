/** What differs between two documents of which one was made from the other: what did not change is the same object. */
import type { Design } from "../api/types";

/** Values by their keys, keys that went, and parts of lists as long as before by their numbers. */
export interface Change {
  values: Record<string, unknown>;
  gone: string[];
  parts: Record<string, [number, unknown][]>;
}

type Values = Record<string, unknown>;

export function changeBetween(before: Design | null, after: Design): Change {
  const old = (before ?? {}) as unknown as Values;
  const now = after as unknown as Values;
  const is = (key: string) => now[key] !== undefined;
  const change: Change = { values: {}, gone: Object.keys(old).filter((key) => !is(key)), parts: {} };
  for (const [key, value] of Object.entries(now)) {
    const was = old[key];
    if (was === value || value === undefined) continue;
    if (Array.isArray(was) && Array.isArray(value) && was.length === value.length)
      change.parts[key] = value.flatMap((part: unknown, number) =>
        part === was[number] ? [] : [[number, part] as [number, unknown]],
      );
    else change.values[key] = value;
  }
  return change;
}

export function changed(before: Design | null, { values, gone, parts }: Change): Design {
  const document: Values = { ...(before as unknown as Values | null), ...values };
  for (const key of gone) Reflect.deleteProperty(document, key);
  for (const [key, list] of Object.entries(parts)) {
    const whole = [...(document[key] as unknown[])];
    for (const [number, part] of list) whole[number] = part;
    document[key] = whole;
  }
  return document as unknown as Design;
}
