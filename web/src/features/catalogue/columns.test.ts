import { describe, expect, it } from "vitest";

import {
  cellText,
  endsText,
  found,
  idFrom,
  lacking,
  perMetreOf,
  perShownLength,
  TABLES,
  titleText,
  type Row,
} from "./columns";

const rows = [
  { product_id: "a", name: "32 mm PE100 SDR 11", family: "PE100 by outside diameter" },
  { product_id: "b", name: "3/4 in garden hose", family: "Hose" },
] as Row[];
const pipe = TABLES[0]?.columns ?? [];

describe("the tables of the catalogue", () => {
  it.each([
    ["", ["a", "b"]],
    ["hose", ["b"]],
    ["PE100 32", ["a"]],
    ["hose 32", []],
  ])("of %j finds %j", (words, ids) => {
    expect(found(rows, words).map((row) => row.product_id)).toEqual(ids);
  });

  it.each([
    [20.4, { key: "x", title: "", family: "mm" }, "metric", "20.4 mm"],
    [25.4, { key: "x", title: "", family: "mm" }, "us", "1.000 in"],
    [12.5, { key: "x", title: "", number: true }, "us", "12.5"],
    ["check_valve", { key: "x", title: "" }, "metric", "check valve"],
    [undefined, { key: "x", title: "" }, "metric", ""],
  ] as const)("show %j as people read it", (value, column, system, text) => {
    expect(cellText(value, column, system)).toBe(text);
  });

  it.each([
    ["npt-m 3/4 @15.0", "3/4 NPT thread, male"],
    ["barb 26.64 @21.5; barb 26.64 @21.5", "2 × barb for 26.64 mm"],
    ["comp 32 @26.0; bspp-f 3/4 @13.0", "compression for 32 mm; 3/4 G thread, female"],
    ["nh-f 3/4 @9.0; push 0 @9.0", "3/4 hose thread, female; push-fit"],
    ["", ""],
  ])("call %j by name", (ends, text) => {
    expect(endsText(ends)).toBe(text);
  });

  it("say what a row still lacks", () => {
    expect(lacking({ name: "Pipe", outer_mm: 32 }, pipe)).toEqual(["kind", "wall", "roughness [mm]"]);
  });

  it.each([
    ["Shop's 32 mm!", "shop-s-32-mm"],
    ["  ", "row"],
  ])("%j is kept as %j", (name, id) => {
    expect(idFrom(name)).toBe(id);
  });
});

describe("a price for a length", () => {
  const price = TABLES[0]?.columns.find((column) => column.perLength);
  it.each([
    ["metric", "Price per m", "3.28"],
    ["us", "Price per ft", "1.00"],
  ] as const)("is for the reader's unit of length: %s", (system, title, text) => {
    if (!price) throw new Error("pipes have no price for a length");
    expect(titleText(price, system)).toBe(title);
    expect(cellText(3.28084, price, system)).toBe(text);
    expect(perMetreOf(perShownLength(3.28084, system), system)).toBeCloseTo(3.28084, 9);
  });
});
