/** A height model as it is drawn: contours and shaded hills. */
import { contours } from "d3-contour";
import { max, min, range } from "d3-array";

import type { Relief } from "../../api/types";
import type { Spot } from "../../shared/way";

/** Light from the north-west, 45 degrees high, as on printed maps. */
const LIGHT = [-0.5, 0.5, Math.SQRT1_2] as const;
const STEEPER = 2.5;
const MOST_CONTOURS = 12;

export interface Contour {
  height: number;
  /** rings in metres of the plan */
  rings: Spot[][];
  label: Spot | null;
}

/** A round step [m] at which no more than a dozen contours lie between two heights. */
export function contourStep(low: number, high: number): number {
  const raw = Math.max(high - low, 0.1) / MOST_CONTOURS;
  const power = 10 ** Math.floor(Math.log10(raw));
  return ([1, 2, 5].find((step) => step * power >= raw) ?? 10) * power;
}

/** Contours at round heights; they run along lines of one height, and stop where the model knows none. */
export function contoursOf(relief: Relief): Contour[] {
  const rows = relief.heights_m;
  const [columns, count] = [rows[0]?.length ?? 0, rows.length];
  const known = rows.flat().filter((height) => height != null);
  const [low, high] = [min(known) ?? 0, max(known) ?? 0];
  const step = contourStep(low, high);
  const values = rows.flatMap((row) => row.map((height) => height ?? low - 2 * step));
  const metres = ([x = 0, y = 0]: number[]): Spot => [
    relief.east_m + (x - 0.5) * relief.step_m,
    relief.north_m + (y - 0.5) * relief.step_m,
  ];
  const made = contours()
    .size([columns, count])
    .thresholds(range(Math.ceil(low / step) * step, high, step))(values);
  return made.map(({ value, coordinates }) => {
    const rings = coordinates.flatMap((polygon) => polygon.map((ring) => inside(ring, columns, count)));
    const pieces = rings.flat().filter((piece) => piece.length > 1);
    const longest = [...pieces].sort((a, b) => b.length - a.length)[0];
    const middle = longest && longest.length > 8 ? longest[Math.floor(longest.length / 2)] : undefined;
    return {
      height: Number(value.toFixed(3)),
      rings: pieces.map((piece) => piece.map(metres)),
      label: middle ? metres(middle) : null,
    };
  });
}

/** The pieces of a ring that do not run along the edge of the model. */
function inside(ring: number[][], columns: number, rows: number): number[][][] {
  const edge = ([x = 0, y = 0]: number[]) => x <= 0.5 || y <= 0.5 || x >= columns - 0.5 || y >= rows - 0.5;
  const pieces: number[][][] = [[]];
  for (const point of ring) {
    if (edge(point)) pieces.push([]);
    else pieces.at(-1)?.push(point);
  }
  return pieces;
}

/** How light each point of the hills is, 0 dark to 1 light, row by row from the south. Source: Lambert's cosine law. */
export function shadesOf(relief: Relief): (number | null)[][] {
  const rows = relief.heights_m;
  return rows.map((row, r) =>
    row.map((height, c) => {
      const [west, east] = [row[c - 1] ?? height, row[c + 1] ?? height];
      const [south, north] = [rows[r - 1]?.[c] ?? height, rows[r + 1]?.[c] ?? height];
      if (height === null || west === null || east === null || south === null || north === null) return null;
      const across = relief.step_m * 2;
      const [dx, dy] = [((east - west) / across) * STEEPER, ((north - south) / across) * STEEPER];
      const light = (-dx * LIGHT[0] - dy * LIGHT[1] + LIGHT[2]) / Math.hypot(dx, dy, 1);
      return Math.max(0, Math.min(1, light));
    }),
  );
}

/** The shaded hills as a picture, one pixel a point, north up. */
export function shadedPicture(relief: Relief): string {
  const shades = shadesOf(relief);
  const canvas = document.createElement("canvas");
  [canvas.width, canvas.height] = [shades[0]?.length ?? 1, shades.length];
  const context = canvas.getContext("2d");
  if (!context) return "";
  const image = context.createImageData(canvas.width, canvas.height);
  shades.forEach((row, r) =>
    row.forEach((light, c) => {
      const at = ((shades.length - 1 - r) * canvas.width + c) * 4;
      const flat = LIGHT[2];
      const darker = light === null ? 0 : Math.max(0, flat - light) / flat;
      const lighter = light === null ? 0 : Math.max(0, light - flat) / (1 - flat);
      image.data.set(lighter > darker ? [255, 255, 245, lighter * 150] : [40, 60, 50, darker * 190], at);
    }),
  );
  context.putImageData(image, 0, 0);
  return canvas.toDataURL();
}

/** Where a value that is known at the model's points is at least zero: rings in metres of the plan. */
export function ringsAbove(relief: Relief, values: (number | null)[][]): Spot[][] {
  const [columns, rows] = [values[0]?.length ?? 0, values.length];
  const flat = values.flatMap((row) => row.map((one) => one ?? -1));
  const [shape] = contours().size([columns, rows]).thresholds([0])(flat);
  return (shape?.coordinates ?? []).flatMap((polygon) =>
    polygon.map((ring) =>
      ring.map(([x = 0, y = 0]): Spot => [
        relief.east_m + (x - 0.5) * relief.step_m,
        relief.north_m + (y - 0.5) * relief.step_m,
      ]),
    ),
  );
}
