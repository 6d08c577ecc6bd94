/** Positions at which a part could stand: what they are told, coloured and put in order by. */
import type { Design, Job } from "../../api/types";
import { nameOfPart } from "../../shared/names";
import type { Option } from "../../shared/options";
import { priceText } from "../../shared/price";
import { quantityText, type System } from "../../shared/units";

export type Siting = NonNullable<Job["site"]>;
export type Position = Siting["positions"][number];
export type Measure = "best" | "cost" | "flow" | "walk" | "stand";

const NONE = "–";

interface MeasureOf {
  name: string;
  /** smaller is better; null where it is not known */
  of: (one: Position) => number | null;
  text: (one: Position, currency: string, system: System) => string;
}

const metres = (value: number | null, system: System, digits = 0) =>
  value === null ? NONE : quantityText({ value, unit: "m", digits }, system);

/** What a position costs more than now, or less. */
export const costText = (cost: number | null, currency: string): string =>
  cost === null
    ? "not known"
    : Math.abs(cost) < 0.5
      ? "as much"
      : `${cost > 0 ? "+" : "−"}${priceText(Math.abs(cost), currency)}`;

export const MEASURES: Record<Exclude<Measure, "best">, MeasureOf> = {
  cost: {
    name: "Cost",
    of: (one) => one.cost,
    text: (one, currency) => costText(one.cost, currency),
  },
  flow: {
    name: "Flow",
    of: (one) => (one.flow_lpm === null ? null : -one.flow_lpm),
    text: (one, _, system) =>
      one.flow_lpm === null ? NONE : quantityText({ value: one.flow_lpm, unit: "L/min" }, system),
  },
  walk: {
    name: "Longest walk",
    of: (one) => one.walk_m,
    text: (one, _, system) => metres(one.walk_m, system),
  },
  stand: {
    name: "Stand needed",
    of: (one) => one.stand_m,
    text: (one, _, system) =>
      one.stand_m === null ? `over ${metres(10, system)}` : metres(one.stand_m, system, 2),
  },
};

/** The measures that say something of a part. */
export const measuresOf = (siting: Siting): Exclude<Measure, "best">[] =>
  siting.kind === "vessel"
    ? ["cost", "stand"]
    : siting.positions.some((one) => one.walk_m !== null)
      ? ["cost", "flow", "walk"]
      : ["cost", "flow"];

/** Positions in an order; the server's is the best first. */
export function inOrder(positions: Position[], by: Measure): Position[] {
  if (by === "best") return positions;
  const of = (one: Position) => MEASURES[by].of(one) ?? Infinity;
  return [...positions].sort((a, b) => of(a) - of(b));
}

/** Which quarter of the range a position lies in, 0 the best; null where it is not known. */
export function quarterOf(one: Position, positions: Position[], by: Exclude<Measure, "best">): number | null {
  const known = positions.map((each) => MEASURES[by].of(each)).filter((value) => value !== null);
  const value = MEASURES[by].of(one);
  if (value === null || known.length === 0) return null;
  const [low, high] = [Math.min(...known), Math.max(...known)];
  return high > low ? Math.min(3, Math.floor((4 * (value - low)) / (high - low))) : 0;
}

/** What is wrong with a position, in words; nothing where all is well. */
export function troubleOf(one: Position, siting: Siting, system: System): string {
  const told: string[] = [];
  if (one.outside.length) told.push(`outside ${one.outside.join(", ")}`);
  if (one.short.length) told.push(`too little at ${one.short.join(", ")}`);
  if (siting.wanted_lpm !== null && (one.flow_lpm ?? 0) < siting.wanted_lpm * 0.999)
    told.push(`${quantityText({ value: siting.wanted_lpm, unit: "L/min" }, system)} wanted`);
  if (siting.walk_limit_m !== null && (one.walk_m ?? 0) > siting.walk_limit_m)
    told.push(`farther than ${metres(siting.walk_limit_m, system)}`);
  if (siting.kind === "vessel" && one.stand_m === null) told.push("no stand is high enough");
  if (!one.works && !told.length)
    told.push(siting.kind === "vessel" ? "its feed brings less" : "too little flow");
  return told.join("; ");
}

/** What may stand elsewhere: outlets, and tanks that give water. */
export function partsOf(document: Design): Option[] {
  const outlets = document.outlets ?? [];
  const ends = new Set((document.lines ?? []).map((line) => line.from));
  const tanks = (document.vessels ?? []).filter((vessel) => ends.has(vessel.id));
  return [
    ...outlets.map((outlet) => ({
      value: outlet.id,
      text: nameOfPart(document, outlet.id),
      group: "Troughs and taps",
    })),
    ...tanks.map((vessel) => ({ value: vessel.id, text: nameOfPart(document, vessel.id), group: "Tanks" })),
  ];
}

/** Where an outlet may stand: along a line, the one that leads to it first, or in a paddock with a fence. */
export function placesOf(document: Design, outlet: string): Option[] {
  const place = (document.outlets ?? []).find((one) => one.id === outlet)?.place;
  const lines = [...(document.lines ?? [])].sort(
    (a, b) => Number(b.to === outlet || b.to === place) - Number(a.to === outlet || a.to === place),
  );
  const paddocks = (document.paddocks ?? [])
    .filter((one) => (one.corners ?? []).length > 2)
    .sort((a, b) => Number(b.outlet === outlet) - Number(a.outlet === outlet));
  return [
    ...paddocks.map((one) => ({
      value: `paddock ${one.id}`,
      text: `in ${one.name ?? one.id}`,
      group: "In a paddock",
    })),
    ...lines.map((one) => ({
      value: `along ${one.id}`,
      text: `along ${nameOfPart(document, one.id)}`,
      group: "Along a line",
    })),
  ];
}
