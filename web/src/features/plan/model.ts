/** Geometry of the plan: places to pixels with one scale for both axes, lines by the bore they have. */
import type { Analysis, Design, Route } from "../../api/types";

export interface Frame {
  width: number;
  height: number;
}

const EDGE = { left: 76, right: 136, top: 44, bottom: 84 };

export function planScale(document: Design, frame: Frame) {
  const east = document.places.map((place) => place.east_m);
  const north = document.places.map((place) => place.north_m);
  const spanE = Math.max(1, Math.max(...east) - Math.min(...east));
  const spanN = Math.max(1, Math.max(...north) - Math.min(...north));
  const roomX = Math.max(10, frame.width - EDGE.left - EDGE.right);
  const roomY = Math.max(10, frame.height - EDGE.top - EDGE.bottom);
  const perMetre = Math.min(roomX / spanE, roomY / spanN);
  const left = EDGE.left + (roomX - spanE * perMetre) / 2;
  const top = EDGE.top + (roomY - spanN * perMetre) / 2;
  return {
    perMetre,
    x: (eastM: number) => left + (eastM - Math.min(...east)) * perMetre,
    y: (northM: number) => top + (Math.max(...north) - northM) * perMetre,
  };
}

/** A round length whose bar is about 100 pixels. */
export function scaleBar(
  perMetre: number,
  toShown: (m: number) => number,
): { length: number; pixels: number } {
  const unit = toShown(1);
  const wanted = (100 / perMetre) * unit;
  const power = 10 ** Math.floor(Math.log10(wanted));
  const length = ([5, 2, 1].find((step) => step * power <= wanted) ?? 1) * power;
  return { length, pixels: (length / unit) * perMetre };
}

export type Spare = "short" | "little" | "some" | "enough" | "still";

export const LITTLE_M = 1;
export const SOME_M = 4;

/** How much head a line's outlet keeps over what it needs, at the wanted flow. */
export function spareOf(lineId: string, analysis: Analysis | null): Spare {
  const margins = (analysis?.routes ?? [])
    .filter((route: Route) => route.lines.includes(lineId) && route.sounding)
    .map((route) => Math.min(route.sounding?.margin_m ?? 0, route.sounding?.least_over_pipe_m ?? Infinity));
  if (!margins.length) return "still";
  const least = Math.min(...margins);
  return least < 0 ? "short" : least < LITTLE_M ? "little" : least < SOME_M ? "some" : "enough";
}
