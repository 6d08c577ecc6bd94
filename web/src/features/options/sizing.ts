/** What of a plan is chosen when it is sized: edits of its `sizing` and of what is required. */
import type { Design } from "../../api/types";

type SizingOf = NonNullable<Design["sizing"]>;

/** The plan's sizing, made where there is none yet. */
export function sizingOf(draft: Design): SizingOf {
  draft.sizing ??= {};
  return draft.sizing;
}

export function keepAsItIs(draft: Design, part: string, keep: boolean): void {
  const sizing = sizingOf(draft);
  const others = (sizing.keep ?? []).filter((one) => one !== part);
  sizing.keep = keep ? [...others, part] : others;
  if (keep && sizing.stands) sizing.stands = sizing.stands.filter((one) => one.vessel !== part);
}

/** When a flow is required: with all open, alone, or in a case; as one value of a choice. */
export function whenOf(wanted: { alone?: boolean; case?: string | null }): string {
  return wanted.case ? `case ${wanted.case}` : wanted.alone ? "alone" : "together";
}

export function setWhen(wanted: NonNullable<Design["requirements"]>[number], when: string): void {
  const of = when.startsWith("case ") ? when.slice(5) : null;
  wanted.alone = when === "alone";
  wanted.case = of;
  if (of) wanted.surely = false;
}
