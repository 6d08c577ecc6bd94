/** Labels that give way to each other: each takes the first of its spots that covers least. */
import type { Area } from "../../shared/area";
import type { Spot } from "../../shared/way";

export interface Label {
  key: string;
  width: number;
  height: number;
  /** top left corners, best first */
  spots: [number, number][];
  /** shown even where it covers something */
  needed: boolean;
}

/** Sizes of a mark's label [px]: a line of text, a small sounding, its bar, a letter, and what flows. */
export const LABEL = { line: 15, sounding: 15, bar: 84, letter: 7, flow: 76 };

const OUTSIDE_COUNTS = 4; // an area outside the frame is worse than one that is covered
const COVERS_TOO_MUCH = 0.12; // of a label that may be left out
export const LABEL_COUNTS = 5; // a label over another reads worse than one over a stroke

/** Place labels in their order; those that are not needed and find no room are left out. */
export function placeLabels(labels: Label[], taken: Area[], frame: Area): Map<string, Area> {
  const placed = new Map<string, Area>();
  const cover = new Cover(taken);
  for (const { key, width, height, spots, needed } of labels) {
    const room = needed ? Infinity : COVERS_TOO_MUCH * width * height;
    let [best, least]: [Area | null, number] = [null, room];
    for (const [x, y] of spots) {
      const area = { x, y, width, height };
      const outside = OUTSIDE_COUNTS * (width * height - shared(area, frame));
      const cost = outside < least ? outside + cover.shared(area, least - outside) : least;
      if (cost < least) [best, least] = [area, cost];
      if (least === 0) break;
    }
    if (!best) continue;
    placed.set(key, best);
    cover.add({ ...best, weight: LABEL_COUNTS });
  }
  return placed;
}

const CELL = 48;

/** Areas that are taken, found by where they lie. */
class Cover {
  private readonly cells = new Map<number, Area[]>();

  constructor(areas: Area[]) {
    for (const area of areas) this.add(area);
  }

  add(area: Area): void {
    for (const cell of cellsOf(area)) {
      const own = this.cells.get(cell);
      if (own) own.push(area);
      else this.cells.set(cell, [area]);
    }
  }

  /** How much of an area is taken, by weight, counted no further than `enough`; what reaches over cells counts once. */
  shared(area: Area, enough: number): number {
    let sum = 0;
    const met = new Set<Area>();
    for (const cell of cellsOf(area)) {
      for (const other of this.cells.get(cell) ?? []) {
        if (met.has(other)) continue;
        met.add(other);
        sum += shared(area, other) * (other.weight ?? 1);
        if (sum >= enough) return sum;
      }
    }
    return sum;
  }
}

function* cellsOf(area: Area): Generator<number> {
  const [left, right] = [Math.floor(area.x / CELL), Math.floor((area.x + area.width) / CELL)];
  const [top, bottom] = [Math.floor(area.y / CELL), Math.floor((area.y + area.height) / CELL)];
  for (let row = top; row <= bottom; row += 1)
    for (let column = left; column <= right; column += 1) yield row * 65536 + column;
}

/** The area that two rectangles share. */
export function shared(a: Area, b: Area): number {
  const wide = Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x);
  const high = Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y);
  return wide > 0 && high > 0 ? wide * high : 0;
}

/** Spots around a mark: right, left, under, over, the corners, and under and over from edge to edge. */
export function around(mark: Area, width: number, height: number, gap = 7): [number, number][] {
  const right = mark.x + mark.width + gap;
  const left = mark.x - width - gap;
  const middle = mark.y + mark.height / 2 - height / 2;
  const centre = mark.x + mark.width / 2 - width / 2;
  const under = mark.y + mark.height + gap / 2;
  const over = mark.y - height - gap / 2;
  return [
    [right, mark.y - 2],
    [left, mark.y - 2],
    [right, middle],
    [left, middle],
    [centre, under],
    [centre, over],
    [right, under - 6],
    [left, under - 6],
    [right, over + 6],
    [left, over + 6],
    [mark.x, under],
    [mark.x + mark.width - width, under],
    [mark.x, over],
    [mark.x + mark.width - width, over],
  ];
}

/** Small areas along a straight stroke, so that labels keep off it. */
export function alongStroke(from: Spot, to: Spot, width: number): Area[] {
  const [x1, y1] = from;
  const [x2, y2] = to;
  const count = Math.max(1, Math.ceil(Math.hypot(x2 - x1, y2 - y1) / 8));
  return Array.from({ length: count + 1 }, (_, index) => ({
    x: x1 + ((x2 - x1) * index) / count - width / 2,
    y: y1 + ((y2 - y1) * index) / count - width / 2,
    width,
    height: width,
  }));
}
