/** Arrow keys on the plan. */
import type { Spot } from "./way";

/** One metre east or north for each arrow, and how much farther with Shift. */
export const ARROWS: Record<string, Spot> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
};
export const FAST = 10;
