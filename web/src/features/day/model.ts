/** A run over time as strips on one axis, and what stands at a moment of it. */
import type { DayEvent, DayRun, Design } from "../../api/types";
import { named, nameOfPart } from "../../shared/names";
import type { Family } from "../../shared/units";

export const DAY_S = 86_400;
export const HOUR_S = 3_600;
const MINUTE_S = 60;

export interface Strip {
  key: string;
  title: string;
  unit: Family;
  /** what the height of the strip stands for, at least 0 */
  most: number;
  values: number[];
  /** the same in the run it is held against */
  other: number[] | null;
  /** a level, drawn as water, or a flow */
  kind: "level" | "flow" | "drinking" | "source";
}

/** A time from midnight on as a clock shows it, with its day where the run has several. */
export function clockText(timeS: number, days = false): string {
  if (timeS === DAY_S && !days) return "24:00";
  const minutes = Math.floor(timeS / MINUTE_S + 1e-6);
  const day = Math.floor(minutes / 1440);
  const rest = minutes % 1440;
  const clock = `${String(Math.floor(rest / 60)).padStart(2, "0")}:${String(rest % 60).padStart(2, "0")}`;
  return days || day > 0 ? `day ${day + 1}, ${clock}` : clock;
}

/** A series at a time between its points, on straight lines. */
export function valueAt(timesS: readonly number[], values: readonly number[], timeS: number): number {
  const after = indexAfter(timesS, timeS);
  if (after === 0) return values[0] ?? 0;
  const [t0 = 0, t1 = 0] = [timesS[after - 1], timesS[after]];
  const [v0 = 0, v1 = v0] = [values[after - 1], values[after]];
  return t1 > t0 ? v0 + ((v1 - v0) * Math.min(Math.max(timeS - t0, 0), t1 - t0)) / (t1 - t0) : v0;
}

/** The number of the first point after a time; of the last where none is. */
function indexAfter(timesS: readonly number[], timeS: number): number {
  let [low, high] = [0, timesS.length - 1];
  while (low < high) {
    const middle = (low + high) >> 1;
    if ((timesS[middle] ?? 0) > timeS) high = middle;
    else low = middle + 1;
  }
  return Math.max(low, 0);
}

const sum = (rows: number[][], count: number): number[] =>
  Array.from({ length: count }, (_, at) => rows.reduce((total, row) => total + (row[at] ?? 0), 0));

const LEAST_FLOW_LPM = 0.05;

/** Another run told at the times of this one. */
export function toldAt(run: DayRun, timesS: readonly number[]): DayRun {
  const again = (rows: Record<string, number[]>) =>
    Object.fromEntries(
      Object.entries(rows).map(([key, values]) => [
        key,
        timesS.map((time) => valueAt(run.times_s, values, time)),
      ]),
    );
  return {
    ...run,
    times_s: [...timesS],
    levels_m: again(run.levels_m),
    flows_lpm: again(run.flows_lpm),
    beside_lpm: again(run.beside_lpm),
  };
}

/** All strips of a run: levels of tanks, then of what floats fill; who drinks; what sources bring; flows of mains. */
export function stripsOf(document: Design, run: DayRun, other: DayRun | null): Strip[] {
  const filled = new Set((document.outlets ?? []).flatMap((outlet) => outlet.fills ?? []));
  const level = (vessel: NonNullable<Design["vessels"]>[number]): Strip => ({
    key: vessel.id,
    title: named(vessel),
    unit: "m",
    most: Math.max(0.01, brimOf(vessel), ...(run.levels_m[vessel.id] ?? [])),
    values: run.levels_m[vessel.id] ?? [],
    other: other?.levels_m[vessel.id] ?? null,
    kind: "level",
  });
  const rows = new Set((document.vessels ?? []).flatMap((one) => (one.role === "bucket_row" ? one.id : [])));
  const drunk = new Set((document.herds ?? []).map((herd) => herd.outlet));
  const watered = new Set(
    (document.outlets ?? []).flatMap((one) => (drunk.has(one.id) ? (one.fills ?? []) : [])),
  );
  const [stores, troughs, rest] = [
    (id: string) => !filled.has(id) && !rows.has(id),
    (id: string) => watered.has(id),
    (id: string) => rows.has(id) || (filled.has(id) && !watered.has(id)),
  ].map((own) => (document.vessels ?? []).filter((vessel) => own(vessel.id)).map(level)) as [
    Strip[],
    Strip[],
    Strip[],
  ];
  const count = run.times_s.length;
  const of = (rows: Record<string, number[]> | undefined, key: string) => rows?.[key] ?? null;
  const flow = (
    key: string,
    title: string,
    values: number[],
    kind: Strip["kind"],
    against: number[] | null,
  ) => ({
    key,
    title,
    unit: "L/min" as const,
    most: Math.max(LEAST_FLOW_LPM, ...values.map(Math.abs), ...(against ?? []).map(Math.abs)),
    values: values.map(Math.abs),
    other: against?.map(Math.abs) ?? null,
    kind,
  });
  const herds = (document.herds ?? []).map((herd) => herd.id);
  const drinking = (told: DayRun) =>
    sum(
      herds.map((id) => told.beside_lpm[id] ?? []),
      told.times_s.length,
    );
  return [
    ...stores,
    ...troughs,
    ...(herds.some((id) => run.beside_lpm[id]?.some((one) => one > 0))
      ? [flow("drinking", "Drinking", drinking(run), "drinking", other && drinking(other))]
      : []),
    ...[...(document.inflows ?? []), ...(document.pressure_sources ?? [])].flatMap((inflow) =>
      run.beside_lpm[inflow.id] || other?.beside_lpm[inflow.id]
        ? [
            flow(
              inflow.id,
              named(inflow),
              run.beside_lpm[inflow.id] ?? new Array<number>(count).fill(0),
              "source",
              of(other?.beside_lpm, inflow.id),
            ),
          ]
        : [],
    ),
    ...mainsOf(document).map((line) =>
      flow(line.id, named(line), run.flows_lpm[line.id] ?? [], "flow", of(other?.flows_lpm, line.id)),
    ),
    ...rest,
  ];
}

const brimOf = (vessel: NonNullable<Design["vessels"]>[number]): number => {
  if (vessel.overflow_m != null) return vessel.overflow_m;
  const { shape } = vessel;
  if (shape.kind === "lying_cylinder") return shape.diameter_m;
  return shape.kind === "stage_volume" ? (shape.stages.at(-1)?.[0] ?? 0) : shape.height_m;
};

/** The lines that begin or end at a vessel that no float fills: through them the stores give. */
function mainsOf(document: Design) {
  const filled = new Set((document.outlets ?? []).flatMap((outlet) => outlet.fills ?? []));
  const stores = new Set((document.vessels ?? []).filter((one) => !filled.has(one.id)).map((one) => one.id));
  return (document.lines ?? []).filter((line) => stores.has(line.from) || stores.has(line.to));
}

/** The time of the nearest happening after or before a time; null where there is none. */
export function happeningFrom(timesS: readonly number[], timeS: number, way: 1 | -1): number | null {
  const beyond = timesS.filter((one) => (way > 0 ? one > timeS + 1 : one < timeS - 1));
  return beyond.length ? (way > 0 ? Math.min(...beyond) : Math.max(...beyond)) : null;
}

/** When an event ends [s]: by its own time, at the next look, or at the end of the run. */
export function endOf(event: DayEvent, looksS: readonly number[], lengthS: number): number {
  const look = event.until_look ? looksS.find((one) => one > event.at_s) : undefined;
  return Math.min(look ?? event.until_s ?? lengthS, lengthS);
}

/** The rows of a run for a spreadsheet: time, then each strip in the user's unit. */
export function tableRows(
  strips: readonly Strip[],
  timesS: readonly number[],
  shown: (value: number, unit: Family) => number,
): (string | number)[][] {
  return timesS.map((time, at) => [
    clockText(time, true),
    ...strips.map((strip) => shown(strip.values[at] ?? 0, strip.unit)),
  ]);
}

/** What each kind of event is called. */
export const KINDS: Record<DayEvent["kind"], string> = {
  source_lost: "Source lost",
  stuck_open: "Valve stuck open",
  stuck_shut: "Valve stuck shut",
  partly_blocked: "Partly blocked",
  hose_off: "Hose off",
  split: "Hose or pipe split",
  tap_open: "Tap left open",
  leak: "Tank leaks",
  hot_spell: "Hot spell",
  herd_moved: "Herd moved",
  freeze: "Freeze",
  check_valve_failed: "Check valve failed",
  tipped: "Trough tipped",
  shut_by_hand: "Shut by hand",
  siphon_primed: "Siphon primed",
};

/** An event in a few words: what it is, and where. */
export function eventName(document: Design, event: DayEvent): string {
  const where = "where" in event ? event.where : null;
  return where ? `${KINDS[event.kind]}: ${nameOfPart(document, where)}` : KINDS[event.kind];
}
