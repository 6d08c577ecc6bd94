/** Geometry of the season's pictures, and the season as a table. */
import { ticks } from "d3-array";
import { scaleLinear, scaleLog } from "d3-scale";
import { area, line } from "d3-shape";

import type { Design, SeasonRun } from "../../api/types";
import { bare, volumeUnit } from "../../shared/csvUnits";
import type { Family, System } from "../../shared/units";

export const MARGIN = { left: 62, right: 12, top: 14, bottom: 20 };

/** Up from the middle what comes in, down what goes out, both a day; behind them the store; beneath days with no refill. */
export function yearGeometry(season: SeasonRun, frame: { width: number; height: number }) {
  const { series } = season;
  const count = series.days.length;
  const inflow = series.days.map((_, index) =>
    Object.values(series.in_l).reduce((sum, one) => sum + (one[index] ?? 0), 0),
  );
  const each = series.days_each;
  const daily = (values: number[]) => values.map((value) => value / each);
  const demand = daily(series.out_l.map((out, index) => out + (series.unmet_l[index] ?? 0)));
  const most = Math.max(1, quantile(daily(inflow), 0.98), ...demand) * 1.1;
  const foot = frame.height - MARGIN.bottom;
  const x = scaleLinear([0, count], [MARGIN.left, frame.width - MARGIN.right]);
  const flow = scaleLinear([0, most], [foot, MARGIN.top]).clamp(true);
  const store = scaleLinear([0, Math.max(1, season.capacity_l)], [foot, MARGIN.top]);
  const indices = series.days.map((_, index) => index);
  const at = (index: number) => x(index + 0.5);
  const path = (values: number[], scale: (value: number) => number) =>
    line<number>()
      .x(at)
      .y((index) => scale(values[index] ?? 0))(indices) ?? "";
  return {
    x,
    foot,
    flow,
    store,
    most,
    indexAt: (px: number) => Math.min(count - 1, Math.max(0, Math.floor(x.invert(px)))),
    storeArea:
      area<number>()
        .x(at)
        .y0(store(0))
        .y1((index) => store(series.store_l[index] ?? 0))(indices) ?? "",
    storeLine: path(series.store_l, store),
    inLine: path(daily(inflow), flow),
    demandLine: path(demand, flow),
    inflow: daily(inflow),
    demand,
    bad: indices.filter((index) => (series.unmet_l[index] ?? 0) > 1e-6),
    months: series.days.flatMap((day, index) =>
      index > 0 && day.slice(0, 7) !== series.days[index - 1]?.slice(0, 7) ? [{ day, index }] : [],
    ),
  };
}

/** Days in hand over the season, as a band above the days that are wanted. */
export function handGeometry(season: SeasonRun, wanted: number, frame: { width: number; height: number }) {
  const { series } = season;
  const top = Math.max(wanted * 1.5, ...series.days_in_hand) * 1.05;
  const foot = frame.height - 4;
  const x = scaleLinear([0, series.days.length], [MARGIN.left, frame.width - MARGIN.right]);
  const y = scaleLinear([0, top], [foot, 6]);
  const indices = series.days.map((_, index) => index);
  return {
    x,
    y,
    foot,
    band:
      area<number>()
        .x((index) => x(index + 0.5))
        .y0(foot)
        .y1((index) => y(series.days_in_hand[index] ?? 0))(indices) ?? "",
  };
}

/** The share of days met against the size of the store, with the present one on it. */
export function curveGeometry(season: SeasonRun, frame: { width: number; height: number }) {
  const { store_l: sizes, days_share: shares } = season.curve;
  const least = Math.min(0.5, ...shares);
  const x = scaleLog([Math.min(...sizes), Math.max(...sizes)], [MARGIN.left, frame.width - MARGIN.right]);
  const y = scaleLinear([least, 1], [frame.height - MARGIN.bottom, MARGIN.top]);
  const indices = sizes.map((_, index) => index);
  const own = season.cautious.days_share;
  return {
    x,
    y,
    least,
    line:
      line<number>()
        .x((index) => x(sizes[index] ?? 1))
        .y((index) => y(shares[index] ?? 0))(indices) ?? "",
    own: { x: x(Math.max(season.capacity_l, Math.min(...sizes))), y: y(Math.max(own, least)) },
    shareTicks: ticks(least, 1, 4),
    sizeTicks: x.ticks(4).filter((tick) => /^[13]0*$/.test(String(tick))),
  };
}

/** The season as a table, a row for each day or spell of days, in the user's units. */
export function seasonRows(document: Design, season: SeasonRun, system: System): (string | number)[][] {
  const unit = volumeUnit(system);
  const all = (values: number[], family: Family) => values.map((value) => bare(value, family, system));
  const { series } = season;
  const sources = Object.entries(series.in_l);
  const nameOf = (id: string) => document.inflows?.find((one) => one.id === id)?.name ?? id;
  const columns: [string, (string | number)[]][] = [
    ["from_day", series.days],
    [system === "metric" ? "rain_mm" : "rain_in", all(series.rain_mm, "mm rain")],
    [system === "us" ? "most_f" : "most_c", all(series.most_c, "°C")],
    ...sources.map(([id, values]): [string, number[]] => [`${nameOf(id)} ${unit}`, all(values, "L")]),
    [`supplied_${unit}`, all(series.out_l, "L")],
    [`unmet_${unit}`, all(series.unmet_l, "L")],
    [`spilled_${unit}`, all(series.spilled_l, "L")],
    [`store_${unit}`, all(series.store_l, "L")],
    ["days_in_hand", series.days_in_hand],
  ];
  return [
    columns.map(([name]) => name),
    ...series.days.map((_, index) => columns.map(([, values]) => values[index] ?? 0)),
  ];
}

function quantile(values: number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))] ?? 0;
}
