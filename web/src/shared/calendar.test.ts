import { describe, expect, it } from "vitest";

import { dayAfter } from "./calendar";

describe("the day after", () => {
  it.each([
    ["2026-05-31", "2026-06-01"],
    ["2026-12-31", "2027-01-01"],
    ["2028-02-28", "2028-02-29"],
    ["2026-02-28", "2026-03-01"],
  ])("%s is followed by %s", (day, next) => {
    expect(dayAfter(day)).toBe(next);
  });
});
