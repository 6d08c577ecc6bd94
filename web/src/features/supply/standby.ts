/** Standby containers of a plan: a new one. */
import type { Design, Standby } from "../../api/types";

export const STANDBY = { value: "standby", kind: "standby", text: "standby tote or trailer" } as const;

// ours, to begin with: the fields stand beside it
const FRESH = { holds_l: 600, deep_m: 0.9, empty_kg: 60 };

/** Add a standby container that fills the first trough, else the first vessel, from where that stands. */
export function addedStandby(draft: Design): Standby | null {
  const vessels = draft.vessels ?? [];
  const filled = vessels.find(({ role }) => role === "trough") ?? vessels[0];
  if (!filled) return null;
  const taken = new Set((draft.standbys ?? []).map(({ id }) => id));
  let number = 1;
  while (taken.has(`standby-${number}`)) number += 1;
  const fresh: Standby = {
    id: `standby-${number}`,
    name: "Standby tote",
    fills: filled.id,
    place: filled.place,
    ...FRESH,
  };
  draft.standbys = [...(draft.standbys ?? []), fresh];
  return fresh;
}
