import { expect, test } from "vitest";

import type { Design } from "../../api/types";
import { partInTrouble, partsWithTrouble } from "./trouble";

const plan = {
  outlets: [
    { id: "valve-a", fills: "trough-a" },
    { id: "valve-b", fills: "trough-b" },
  ],
  vessels: [
    { id: "tank", role: "tank" },
    { id: "trough-a", role: "trough" },
    { id: "trough-b", role: "trough" },
  ],
  lines: [{ id: "main" }, { id: "lift", pump: { flow_lpm: 20 } }],
  inflows: [
    { id: "well", kind: "pump" },
    { id: "roof", kind: "rain" },
  ],
} as unknown as Design;

test.each<[Parameters<typeof partsWithTrouble>[1], string[]]>([
  ["low", ["valve-a", "valve-b"]],
  ["wet", ["main", "lift"]],
  ["pump", ["well", "lift"]],
  ["dirty", ["valve-a", "valve-b", "tank"]],
])("%s can be at %s", (symptom, parts) => {
  expect(partsWithTrouble(plan, symptom)).toEqual(parts);
});

test("trouble at a trough is looked into at the valve that fills it", () => {
  const parts = partsWithTrouble(plan, "low");
  expect(partInTrouble(plan, parts, "trough-b")).toBe("valve-b");
  expect(partInTrouble(plan, parts, "valve-b")).toBe("valve-b");
  expect(partInTrouble(plan, parts, "gone")).toBe("valve-a");
  expect(partInTrouble(plan, [], "gone")).toBe("");
});
