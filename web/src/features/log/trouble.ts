/** What can be wrong on the line, and at which parts. */
import type { Design, Symptom } from "../../api/types";

export const SYMPTOMS: readonly { value: Symptom; text: string }[] = [
  { value: "low", text: "Trough low" },
  { value: "overflow", text: "Overflow runs" },
  { value: "nothing", text: "Nothing at all" },
  { value: "slow", text: "Slow" },
  { value: "spluttering", text: "Spluttering" },
  { value: "wet", text: "Wet ground" },
  { value: "pump", text: "Pump never stops" },
  { value: "dirty", text: "Dirty or smelly" },
  { value: "frozen", text: "Frozen" },
];

/** Ids of the parts at which a symptom can be seen. */
export function partsWithTrouble(document: Design, symptom: Symptom | null): string[] {
  const lines = document.lines ?? [];
  if (symptom === "wet") return lines.map(({ id }) => id);
  if (symptom === "pump")
    return [
      ...(document.inflows ?? []).filter(({ kind }) => kind === "pump").map(({ id }) => id),
      ...lines.filter(({ pump }) => pump).map(({ id }) => id),
    ];
  const outlets = (document.outlets ?? []).map(({ id }) => id);
  if (symptom !== "dirty") return outlets;
  return [
    ...outlets,
    ...(document.vessels ?? []).filter(({ role }) => role !== "trough").map(({ id }) => id),
  ];
}

/** Where trouble with a part shows: a vessel's at the outlet that fills it, where that can have the symptom. */
export function partInTrouble(document: Design, parts: string[], asked: string): string {
  const filled = document.outlets?.find(({ fills }) => fills === asked)?.id ?? "";
  return [asked, filled].find((id) => parts.includes(id)) ?? parts[0] ?? "";
}
