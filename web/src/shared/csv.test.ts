import { describe, expect, it } from "vitest";

import { csvText } from "./csv";

describe("a table for a spreadsheet", () => {
  it.each([
    ["=1+1", "'=1+1"],
    ["@home", "'@home"],
    ["+cmd|' /C calc'!A0", "'+cmd|' /C calc'!A0"],
    ["-2", "-2"],
    ["+3.5e2", "+3.5e2"],
    ["-", "'-"],
    ["Low trough", "Low trough"],
    ['a "b", c', '"a ""b"", c"'],
    ["a\rb", '"a\rb"'],
  ])("holds %s as text", (told, cell) => {
    expect(csvText([[told, -1.25]])).toBe(`${cell},-1.25\n`);
  });
});
