/** The kinds of source, their figures, and a new one to start with. */
import type { Inflow } from "../../api/types";
import type { Family } from "../../shared/units";

export interface InflowFigure {
  key: string;
  label: string;
  family: Family;
  digits?: number;
  /** the figure may be left out; what that means */
  empty?: string;
  /** what counts where the document leaves it out */
  usual?: number;
  /** the field shows this many times the document's figure */
  times?: number;
}

const HOURS: InflowFigure = {
  key: "hours_per_day",
  label: "Hours a day",
  family: "count",
  digits: 1,
  usual: 24,
};

const NUMBERS = {
  spring: [
    {
      key: "claimed_lpm",
      label: "Estimated, not timed",
      family: "L/min",
      empty: "empty: the timings are used",
    },
  ],
  rain: [
    {
      key: "area_m2",
      label: "Roof area from above",
      family: "m²",
      digits: 1,
      empty: "or length and width",
    },
    { key: "length_m", label: "Length", family: "m", digits: 1, empty: "or the area" },
    { key: "width_m", label: "Width", family: "m", digits: 1, empty: "or the area" },
    { key: "coefficient", label: "Runoff, %", family: "count", times: 100, usual: 0.85 },
    { key: "first_loss_mm", label: "First rain lost", family: "mm rain", usual: 0.5 },
    { key: "first_flush_l", label: "First-flush diverter", family: "L", usual: 0 },
    { key: "weep_lpd", label: "Diverter leak, a wet day", family: "L/d", usual: 0 },
    { key: "gutter_lpm", label: "Gutter capacity", family: "L/min", empty: "empty: all of it" },
  ],
  pump: [
    { key: "flow_lpm", label: "Gives", family: "L/min", empty: "its curve is used" },
    HOURS,
    { key: "limit_lpd", label: "Well gives at most", family: "L/d", empty: "empty: no limit" },
    { key: "cut_in_m", label: "Switch-on level", family: "m", digits: 2, empty: "empty: no switches" },
    { key: "cut_out_m", label: "Switch-off level", family: "m", digits: 2, empty: "empty: no switches" },
  ],
  ram: [
    { key: "fall_m", label: "Fall to the ram", family: "m", digits: 1 },
    { key: "lift_m", label: "Lift above the ram", family: "m", digits: 1 },
    { key: "drive_lpm", label: "Drive flow", family: "L/min" },
    { key: "efficiency", label: "Efficiency, %", family: "count", times: 100, usual: 0.5 },
  ],
  haul: [
    { key: "trip_l", label: "A trip", family: "L" },
    { key: "trip_min", label: "Takes", family: "min" },
    { key: "trips_per_week", label: "Trips a week", family: "count", digits: 1 },
    { key: "tank_empty_kg", label: "Tank, empty", family: "kg", usual: 0 },
    { key: "vehicle_limit_kg", label: "Vehicle may carry", family: "kg", empty: "unknown: read its plate" },
    { key: "price_per_trip", label: "Cost of a trip", family: "count", digits: 2, empty: "unknown" },
  ],
  siphon: [{ key: "flow_lpm", label: "Gives", family: "L/min" }, HOURS],
  transfer: [{ key: "flow_lpm", label: "Gives", family: "L/min" }, HOURS],
  mains: [
    { key: "flow_lpm", label: "Gives", family: "L/min" },
    HOURS,
    { key: "cartridge_l", label: "Cartridge lasts", family: "L", empty: "no cartridge" },
  ],
} as const satisfies Record<Inflow["kind"], InflowFigure[]>;

export const figuresOf = (kind: Inflow["kind"]): readonly InflowFigure[] => NUMBERS[kind];

export const KINDS: { kind: Inflow["kind"]; text: string; told: string }[] = [
  {
    kind: "spring",
    text: "spring or intake",
    told: "Fill a pail of known size and time it. The slowest timing counts.",
  },
  {
    kind: "rain",
    text: "rain on a roof",
    told: "The area seen from above, its runoff, and what the first flush holds back. Runoff of metal sheet is over 90 %, tiles 60 to 90 %, thatch about 20 % (Gould and Nissen-Petersen 1999, from memory).",
  },
  {
    kind: "pump",
    text: "well or pump",
    told: "Its flow and hours, or the levels of its float switches.",
  },
  {
    kind: "ram",
    text: "ram pump",
    told: "It lifts part of a stream by the fall of the whole, day and night.",
  },
  {
    kind: "haul",
    text: "hauled",
    told: "Volume and minutes a trip, trips a week. A litre weighs a kilogram, a US gallon 8.3 lb.",
  },
  {
    kind: "siphon",
    text: "siphon from a pond",
    told: "Its timed flow; only from a pond that is higher.",
  },
  { kind: "transfer", text: "from another tank", told: "Water moved from another tank." },
  { kind: "mains", text: "treated mains", told: "Through a float valve, over an air gap." },
];

/** Set one figure of a source, or take it back; a roof is told by its area or by its lengths, never by both. */
export function withFigure(inflow: Inflow, key: string, value: number | null): Inflow {
  const changed: Record<string, unknown> = { ...inflow };
  changed[key] = value;
  if (inflow.kind === "rain" && value !== null) {
    const area = key === "area_m2";
    const lengths = key === "length_m" || key === "width_m";
    if (area || lengths) delete changed.corners;
    if (area) {
      delete changed.length_m;
      delete changed.width_m;
    }
    if (lengths) {
      delete changed.area_m2;
      changed.length_m ??= value;
      changed.width_m ??= value;
    }
  }
  if (inflow.kind === "pump" && (key === "cut_in_m" || key === "cut_out_m")) {
    const other = key === "cut_in_m" ? "cut_out_m" : "cut_in_m";
    if (value === null) changed[other] = null;
    else changed[other] ??= key === "cut_in_m" ? value + 0.3 : Math.max(0, value - 0.3);
  }
  return changed as unknown as Inflow;
}
