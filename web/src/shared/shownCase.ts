/** The case a plan is judged for, and what it holds open or shut. */
import type { Design } from "../api/types";

type Case = NonNullable<Design["scenarios"]>[number];

/** The number of the case that is shown, which is the first where none is named; -1 where the plan has none. */
export function shownCase({ scenarios, shown_for: shownFor }: Design): number {
  const cases = scenarios ?? [];
  return cases.length
    ? Math.max(
        0,
        cases.findIndex((one) => one.id === shownFor),
      )
    : -1;
}

/** Hold an outlet or a line open or shut in a case; as the plan has it where `state` is neither. */
export function holdInCase(draft: Case, id: string, state: string): void {
  const without = (ids: string[] | undefined) => (ids ?? []).filter((one) => one !== id);
  draft.open = state === "open" ? [...without(draft.open), id] : without(draft.open);
  draft.shut = state === "shut" ? [...without(draft.shut), id] : without(draft.shut);
}
