import { describe, expect, it } from "vitest";

import { sameOptions, type Option } from "./options";

const troughs = (): Option[] => [
  { value: "low", text: "Low trough", group: "Vessels" },
  { value: "ewe", text: "Ewe trough", group: "Vessels" },
];

describe("what can be chosen", () => {
  it("is the same where it was only made anew", () => {
    expect(sameOptions(troughs(), troughs())).toBe(true);
    expect(sameOptions([], [])).toBe(true);
  });

  it.each([
    ["another name", (all: Option[]) => all.map((one) => ({ ...one, text: "Pan" }))],
    ["another group", (all: Option[]) => all.map((one) => ({ ...one, group: "Outlets" }))],
    ["no group", (all: Option[]) => all.map(({ value, text }) => ({ value, text }))],
    ["another order", (all: Option[]) => all.toReversed()],
    ["one more", (all: Option[]) => [...all, { value: "pan", text: "Pan" }]],
    ["one less", (all: Option[]) => all.slice(1)],
  ])("is not with %s", (_, changed) => {
    expect(sameOptions(troughs(), changed(troughs()))).toBe(false);
    expect(sameOptions(changed(troughs()), troughs())).toBe(false);
  });
});
