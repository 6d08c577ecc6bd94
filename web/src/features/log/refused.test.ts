import { expect, test } from "vitest";

import { refusedText } from "./refused";

const fault = (path: string, limit: string) => ({
  path,
  limit,
  code: "out_of_range",
  message: "as it came",
  value: "",
});

test.each([
  [
    "/wanted",
    "1.28571 to 10",
    "Plain water up to the brim makes it 129 %, no weaker: 129 % to 1000 % is allowed.",
  ],
  ["/wanted", "1e-06 to 10", "Wanted: 0 % to 1000 % is allowed."],
  ["/now", "0 to 10", "Strength now: 0 % to 1000 % is allowed."],
  ["/dosing", "'feed'", "as it came"],
])("%s out of %s says what is allowed in percent", (path, limit, text) => {
  expect(refusedText(fault(path, limit))).toBe(text);
});

test("what is refused for another reason has no text of its own", () => {
  expect(refusedText(undefined)).toBeUndefined();
});
