/** What something covers of a picture [px]. */
export interface Area {
  x: number;
  y: number;
  width: number;
  height: number;
  /** how much worse it is for a label to cover this than a stroke */
  weight?: number;
}

/** The weight of a mark. */
export const MARK_COUNTS = 3;

/** Whether two areas have anything in common. */
export const overlaps = (one: Area, other: Area): boolean =>
  one.x < other.x + other.width &&
  other.x < one.x + one.width &&
  one.y < other.y + other.height &&
  other.y < one.y + one.height;
