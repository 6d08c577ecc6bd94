import { describe, expect, it } from "vitest";

import { readNumber } from "./readNumber";

describe("what somebody typed", () => {
  it.each<[string, number]>([
    ["12", 12],
    ["12.5", 12.5],
    ["12,5", 12.5],
    ["0,125", 0.125],
    [",5", 0.5],
    [".5", 0.5],
    ["5.", 5],
    ["-3", -3],
    ["\u22123,25", -3.25],
    ["1 200", 1200],
    ["1\u202f200,5", 1200.5],
    ["12’500", 12500],
    ["1,200.5", 1200.5],
    ["1,234,567", 1234567],
    ["1.200,5", 1200.5],
    ["1.234.567", 1234567],
    ["1.200", 1.2],
    ["1e9", 1e9],
    ["2.5e-3", 0.0025],
    ["1/2", 0.5],
    ["3 1/2", 3.5],
    ["1-1/4", 1.25],
    ["-3/8", -0.375],
    ["¾", 0.75],
    ["1½", 1.5],
    ["0,200", 0.2],
    ["1200,250", 1200.25],
  ])("%s is %f", (typed, value) => {
    expect(readNumber(typed)).toEqual({ kind: "number", value });
  });

  it.each<[string, number[]]>([
    ["1,200", [1200, 1.2]],
    ["12,345", [12345, 12.345]],
    ["-1,500", [-1500, -1.5]],
  ])("%s may be either of two", (typed, values) => {
    expect(readNumber(typed)).toEqual({ kind: "unclear", values });
  });

  it.each([
    "abc",
    "12 m",
    "1,2,3",
    "1..2",
    "--1",
    "1/0",
    "1e999",
    "1 2",
    "1,20,000",
    "½½",
    "/2",
    "NaN",
    "Infinity",
  ])("%s is no number", (typed) => {
    expect(readNumber(typed)).toEqual({ kind: "nonsense" });
  });

  it("nothing is nothing", () => {
    expect(readNumber("  ")).toEqual({ kind: "empty" });
  });
});
