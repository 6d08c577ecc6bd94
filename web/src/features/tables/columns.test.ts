import { produce } from "immer";
import { describe, expect, it } from "vitest";

import type { Design } from "../../api/types";
import text from "../../../../src/leadsman/demo/tamsel-ridge.json?raw";
import { sorted, TABLES, type Column, type Kind } from "./columns";

interface Part {
  id: string;
  name?: string | null;
}

const demonstration = JSON.parse(text) as Design;
const columnOf = (kind: Kind, key: string): Column<Part> => {
  const columns = TABLES.find((table) => table.kind === kind)?.columns as unknown as Column<Part>[];
  const found = columns.find((column) => column.key === key);
  if (!found) throw new Error(`${kind} have no ${key}`);
  return found;
};
const part = (kind: Kind, id: string): Part => {
  const found = (demonstration[kind] as Part[]).find((one) => one.id === id);
  if (!found) throw new Error(id);
  return found;
};

describe("a figure of a table", () => {
  it.each([
    [
      "vessels",
      "chambers",
      "level_m",
      1.2,
      (design: Design) => design.vessels?.find((one) => one.id === "chambers")?.level_m,
    ],
    [
      "lines",
      "low-leg",
      "shut",
      "shut",
      (design: Design) => design.lines?.find((one) => one.id === "low-leg")?.shut && "shut",
    ],
    [
      "outlets",
      "low-valve",
      "wanted",
      25,
      (design: Design) => design.requirements?.find((one) => one.outlet === "low-valve")?.flow_lpm,
    ],
    [
      "outlets",
      "low-valve",
      "name",
      "Low float",
      (design: Design) => design.outlets?.find((one) => one.id === "low-valve")?.name,
    ],
    ["paddocks", "fold-field", "farthest_m", 99, (design: Design) => design.paddocks?.[0]?.farthest_m],
  ] as const)("of %s %s, %s, changes the document", (kind, id, key, value, read) => {
    const column = columnOf(kind, key);
    const own = part(kind, id);
    const changed = produce(demonstration, (draft) => column.put?.(draft, own, value));
    expect(read(changed)).toBe(value);
    const again = (changed[kind] as Part[]).find((one) => one.id === id) ?? own;
    expect(column.of(again, changed)).toBe(value);
  });

  it.each([
    ["places", "gate", "ground", 260, { kind: "set_ground", place: "gate", ground_m: 260 }],
    ["places", "gate", "east", 120, { kind: "move_places", places: { gate: [120, expect.any(Number)] } }],
    ["lines", "low-leg", "length", 91, { kind: "set_length", line: "low-leg", length_m: 91 }],
  ] as const)(
    "of %s %s, %s, is changed by the server where more follows from it",
    (kind, id, key, value, edit) => {
      expect(columnOf(kind, key).edit?.(part(kind, id), value, undefined)).toEqual(edit);
    },
  );

  it("that may not be empty stays where it is emptied", () => {
    const cover = columnOf("lines", "cover_m");
    expect(produce(demonstration, (draft) => cover.put?.(draft, part("lines", "low-leg"), null))).toBe(
      demonstration,
    );
  });
});

describe("sorting", () => {
  it("goes by size, by the alphabet, and leaves what is empty last either way", () => {
    const grounds = sorted(demonstration.places as Part[], columnOf("places", "ground"), demonstration, true);
    const heights = grounds.map(
      (one) => demonstration.places.find((place) => place.id === one.id)?.ground_m ?? 0,
    );
    expect(heights).toEqual([...heights].sort((a, b) => b - a));
    const lines = [
      { id: "a" },
      { id: "b", name: "Zeta" },
      { id: "c", name: "alpha 10" },
      { id: "d", name: "alpha 9" },
    ];
    const by = columnOf("lines", "name");
    expect(sorted(lines, by, demonstration, false).map((one) => one.id)).toEqual(["d", "c", "b", "a"]);
    expect(sorted(lines, by, demonstration, true).map((one) => one.id)).toEqual(["b", "c", "d", "a"]);
  });
});
