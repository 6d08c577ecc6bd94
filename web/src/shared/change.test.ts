import { describe, expect, it } from "vitest";

import type { Design } from "../api/types";
import { changeBetween, changed } from "./change";

const place = (id: string, east_m: number) => ({ id, east_m, north_m: 0, ground_m: 10 });
const before = {
  name: "A",
  places: [place("a", 1), place("b", 2), place("c", 3)],
  lines: [{ id: "l", from: "a", to: "b" }],
  bench: "a",
} as unknown as Design;
const [a, b, c] = before.places;

describe("a change between two documents", () => {
  it.each([
    ["nothing", { ...before }, 0],
    ["one part", { ...before, places: [a, { ...b, east_m: 5 }, c] }, 1],
    ["two parts", { ...before, places: [{ ...a, east_m: 4 }, b, { ...c, ground_m: 9 }] }, 2],
    ["a part more", { ...before, places: [a, b, c, place("d", 4)] }, 0],
    ["no parts left", { ...before, lines: [] }, 0],
    ["a value", { ...before, name: "B" }, 0],
    ["a list that was not there", { ...before, vessels: [{ id: "tank" }] }, 0],
    ["a value that goes", { name: "A", places: before.places, lines: before.lines }, 0],
  ])("tells of %s no more than it has to", (_, after, parts) => {
    const change = changeBetween(before, after as unknown as Design);
    expect(Object.values(change.parts).flat()).toHaveLength(parts);
    expect(change).toEqual(JSON.parse(JSON.stringify(change)));
    expect(changed(before, change)).toEqual(after);
  });

  it("is the whole document where there was none, and leaves the one before as it was", () => {
    expect(changed(null, changeBetween(null, before))).toEqual(before);
    const copy = structuredClone(before);
    changed(before, changeBetween(before, { ...before, places: [] as never }));
    expect(before).toEqual(copy);
  });
});
