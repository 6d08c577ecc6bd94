/** Geometry of the mob's picture, and a herd to start with. */
import { ticks } from "d3-array";
import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";

import type { Design, Herd, Rotation, Trace } from "../../api/types";
import { freeNumber } from "../../shared/names";

export const MARGIN = { left: 44, right: 26, top: 8, bottom: 20 };
const LEVEL_SHARE = 0.52;
const GAP = 10;

export function mobGeometry(trace: Trace, fullLevelM: number, frame: { width: number; height: number }) {
  const end = trace.times_min.at(-1) ?? 1;
  const foot = frame.height - MARGIN.bottom;
  const parting = MARGIN.top + (foot - MARGIN.top) * LEVEL_SHARE;
  const mostHeads = Math.max(
    1,
    ...trace.waiting.map((waiting, index) => waiting + (trace.drinking[index] ?? 0)),
  );
  const x = scaleLinear([0, end], [MARGIN.left, frame.width - MARGIN.right]);
  const level = scaleLinear([0, Math.max(fullLevelM, 1e-6)], [parting - GAP, MARGIN.top + 6]);
  const heads = scaleLinear([0, mostHeads], [foot, parting + GAP]);
  const indices = trace.times_min.map((_, index) => index);
  const at = (index: number) => x(trace.times_min[index] ?? 0);
  const levelAt = (index: number) => level(trace.levels_m[index] ?? 0);
  const drinkingAt = (index: number) => trace.drinking[index] ?? 0;
  const waitingAt = (index: number) => trace.waiting[index] ?? 0;
  return {
    x,
    level,
    heads,
    foot,
    mostHeads,
    levelLine: line<number>().x(at).y(levelAt)(indices) ?? "",
    water: area<number>().x(at).y0(level(0)).y1(levelAt)(indices) ?? "",
    drinking:
      area<number>()
        .x(at)
        .y0(heads(0))
        .y1((index) => heads(drinkingAt(index)))(indices) ?? "",
    waiting:
      area<number>()
        .x(at)
        .y0((index) => heads(drinkingAt(index)))
        .y1((index) => heads(drinkingAt(index) + waitingAt(index)))(indices) ?? "",
    timeTicks: ticks(0, end, 6).filter((tick) => tick < end * 0.95),
  };
}

/** A herd to start with, at the first outlet, with an id that is not taken. */
export function newHerd(document: Design): Herd {
  const number = freeNumber(document.herds, "herd");
  return {
    id: `herd-${number}`,
    name: `Herd ${number}`,
    class: "growing cattle",
    head: 10,
    weight_kg: 300,
    outlet: document.outlets?.[0]?.id ?? "",
  };
}

/** Moves to start with: all summer at the herd's own trough, with an id that is not taken. */
export function newRotation(document: Design, herd: Herd): Rotation {
  const number = freeNumber(document.calendar, "moves");
  const day = (document.scenarios ?? []).find((one) => one.id === document.shown_for)?.date;
  const year = (day ?? new Date().toISOString()).slice(0, 4);
  return {
    id: `moves-${number}`,
    herd: herd.id,
    from: `${year}-05-01`,
    to: `${year}-09-30`,
    outlets: [herd.outlet],
    days_each: 1,
  };
}

/** Spells of days on which the same, and something, is asked: from the first day to before the last. */
export function spellsOf(litres: number[]): { from: number; to: number; value: number }[] {
  const spells: { from: number; to: number; value: number }[] = [];
  litres.forEach((value, index) => {
    const last = spells.at(-1);
    if (value <= 0) return;
    if (last?.to === index && last.value === value) last.to = index + 1;
    else spells.push({ from: index, to: index + 1, value });
  });
  return spells;
}
