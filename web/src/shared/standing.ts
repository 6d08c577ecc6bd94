/** What stands at the places of a plan. */
import type { Design } from "../api/types";

/** Every part that stands at a place: vessels, outlets, and sources under pressure. */
export const standing = (document: Design) => [
  ...(document.vessels ?? []),
  ...(document.outlets ?? []),
  ...(document.pressure_sources ?? []),
];
