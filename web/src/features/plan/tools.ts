/** What the hand does on the plan: nothing in particular, or one of these. */
export type Tool = "line" | "thing" | "paddock" | "measure";

/** What each tool draws, and how many points it needs at least. */
export const DRAWS: Record<Tool, { type: "LineString" | "Polygon" | "Point"; least: number }> = {
  line: { type: "LineString", least: 2 },
  thing: { type: "Point", least: 1 },
  paddock: { type: "Polygon", least: 3 },
  measure: { type: "LineString", least: 2 },
};
