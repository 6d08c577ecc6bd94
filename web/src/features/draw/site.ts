/** A site to start with. */
import type { Design } from "../../api/types";

export type Start = "tank" | "spring box" | "pond";

/** Our own figures to begin with; each can be changed in the sheet. */
export const STARTS: Record<
  Start,
  { role: "tank" | "chamber" | "pond"; height: number; level: number; name: string }
> = {
  tank: { role: "tank", height: 2, level: 1.5, name: "Tank" },
  "spring box": { role: "chamber", height: 1, level: 0.7, name: "Spring box" },
  pond: { role: "pond", height: 2, level: 1.6, name: "Pond" },
};

type Shape = NonNullable<Design["vessels"]>[number]["shape"];

/** The shape that a new vessel begins with. */
export function shapeOf(start: Start): Shape {
  const { height } = STARTS[start];
  return start === "pond"
    ? { kind: "box", length_m: 20, width_m: 10, height_m: height }
    : { kind: "upright_cylinder", diameter_m: 2, height_m: height };
}

/** A site with nothing on it but where the water starts. */
export function newSite(site: string, start: Start, name: string, groundM: number): Design {
  const { role, level } = STARTS[start];
  return {
    format: "leadsman-design",
    version: 1,
    name: "Plan A",
    site: { name: site },
    places: [{ id: "start", name, east_m: 0, north_m: 0, ground_m: groundM }],
    vessels: [
      {
        id: "source",
        name,
        role,
        place: "start",
        shape: shapeOf(start),
        stand_m: 0,
        outlet_m: 0.1,
        level_m: level,
        assumed: ["shape", "level_m"],
      },
    ],
  };
}
