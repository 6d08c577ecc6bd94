/** Geometry of the mob's picture, times and seasons. */
import { ticks } from "d3-array";
import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";

import type { Design, Rotation, Trace } from "../../api/types";
import { troughName } from "../../shared/names";
import { shownCase } from "../../shared/shownCase";

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

/** The time of day so many minutes after midnight, as 06:30. */
export function clock(minutes: number): string {
  const whole = Math.round(minutes);
  const two = (number: number) => String(number).padStart(2, "0");
  return `${two(whole === 1440 ? 24 : Math.floor(whole / 60) % 24)}:${two(whole % 60)}`;
}

/** A spell of minutes as pieces of one day: cut in two where it goes over midnight. */
export function overMidnight(since: number, until: number): [number, number][] {
  if (until <= 1440) return [[since, until]];
  return [
    [since, 1440],
    [0, until - 1440],
  ];
}

/** The year of the season shown: of the day shown, else of the first moves, else of this day. */
export function seasonYear(document: Design): string {
  const day = document.scenarios?.[shownCase(document)]?.date;
  return (day ?? document.calendar?.[0]?.from ?? new Date().toISOString()).slice(0, 4);
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

/** Where the herd may go: the paddocks in the order of its moves where it is told by them, else the troughs. */
export function stopsOf(
  document: Design,
  rotation: Rotation,
): { id: string; text: string; chosen: boolean }[] {
  const byPaddock = Boolean(rotation.paddocks?.length);
  const chosen = (byPaddock ? rotation.paddocks : rotation.outlets) ?? [];
  const all = byPaddock
    ? (document.paddocks ?? []).map((one) => ({ id: one.id, name: one.name ?? one.id }))
    : (document.outlets ?? []).map((one) => ({ id: one.id, name: troughName(document, one.id) }));
  return all.map(({ id, name }) => {
    const place = chosen.indexOf(id);
    return { id, text: place >= 0 && chosen.length > 1 ? `${place + 1}. ${name}` : name, chosen: place >= 0 };
  });
}

/** Minutes as people say them: minutes, or hours from three hours on. */
export function duration(minutes: number): string {
  return minutes < 180 ? `${minutes.toFixed(0)} minutes` : `${(minutes / 60).toFixed(1)} hours`;
}
