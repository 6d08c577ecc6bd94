/** The tables of the catalogue as people read them: which columns, in what units, and which a row must have. */
import type { Catalogue, ProductTable } from "../../api/types";
import { figure, shownDigits, shownUnit, toShown, type Family, type System } from "../../shared/units";

/** A row of any table, by its columns. */
export type Row = Record<string, string | number | null | undefined> & { product_id: string; name: string };

export interface Column {
  key: string;
  title: string;
  /** a quantity in this unit of the tables; text where there is none */
  family?: Family;
  /** a bare number */
  number?: true;
  /** one of these */
  options?: readonly string[];
  needed?: true;
  /** money for a metre: shown for the user's unit of length */
  perLength?: true;
}

const NAME: Column = { key: "name", title: "Name", needed: true };
const ENDS: Column = { key: "ends", title: "Ends" };
const PRICE: Column = { key: "price", title: "Price", number: true };
const mm = (key: string, title: string): Column => ({ key, title, family: "mm" });
const metres = (key: string, title: string): Column => ({ key, title, family: "m" });

export const TABLES: { table: ProductTable; title: string; one: string; columns: Column[] }[] = [
  {
    table: "pipe",
    title: "Pipes and hoses",
    one: "pipe",
    columns: [
      NAME,
      { key: "family", title: "Kind", needed: true },
      { ...mm("outer_mm", "Outside"), needed: true },
      { ...mm("wall_mm", "Wall"), needed: true },
      { key: "roughness_mm", title: "Roughness [mm]", number: true, needed: true },
      { key: "class_bar", title: "Class [bar at 20 °C]", number: true },
      metres("coil_m", "Coil"),
      { key: "price_per_m", title: "Price", number: true, perLength: true },
    ],
  },
  {
    table: "fitting",
    title: "Fittings",
    one: "fitting",
    columns: [
      NAME,
      mm("bore_mm", "Bore through it"),
      { key: "times_ft", title: "Times f_T", number: true },
      { key: "k", title: "K", number: true },
      ENDS,
      PRICE,
    ],
  },
  {
    table: "part",
    title: "Taps, filters, checks, vents",
    one: "part",
    columns: [
      NAME,
      {
        key: "kind",
        title: "Kind",
        options: [
          "isolating_valve",
          "tap_point",
          "filter",
          "check_valve",
          "foot_valve",
          "reducer",
          "vent",
          "drain",
        ],
        needed: true,
      },
      mm("bore_mm", "Bore"),
      { key: "kv_m3h", title: "Passes (Kv)", family: "m³/h" },
      { key: "times_ft", title: "Times f_T", number: true },
      { key: "outlet_kpa", title: "Set to", family: "kPa" },
      ENDS,
      PRICE,
    ],
  },
  {
    table: "float_valve",
    title: "Float valves",
    one: "float valve",
    columns: [
      NAME,
      {
        key: "principle",
        title: "Works by",
        options: ["small-seat arm", "small-diaphragm", "full-flow", "pilot", "mini", "low-pressure arm"],
        needed: true,
      },
      { key: "kv_m3h", title: "Passes (Kv)", family: "m³/h", needed: true },
      { key: "min_kpa", title: "Least pressure", family: "kPa" },
      { key: "sure_kpa", title: "Pressure to open for certain", family: "kPa" },
      { key: "max_kpa", title: "Shuts up to", family: "kPa" },
      mm("seat_mm", "Seat"),
      mm("float_mm", "Float across"),
      { key: "float_kg", title: "Float [kg]", number: true },
      mm("valve_arm_mm", "Arm to the seat"),
      mm("float_arm_mm", "Arm to the float"),
      { ...metres("band_m", "Band"), needed: true },
      mm("stem_mm", "Stem"),
      ENDS,
      PRICE,
    ],
  },
  {
    table: "vessel",
    title: "Troughs, tanks, drums",
    one: "vessel",
    columns: [
      NAME,
      { key: "role", title: "Use", options: ["trough", "tank", "chamber", "bucket_row"], needed: true },
      {
        key: "kind",
        title: "Shape",
        options: ["upright_cylinder", "box", "lying_cylinder", "frustum"],
        needed: true,
      },
      metres("diameter_m", "Across"),
      metres("length_m", "Length"),
      metres("width_m", "Width"),
      metres("height_m", "Height"),
      metres("top_diameter_m", "Across the top"),
      { key: "empty_kg", title: "Empty", family: "kg" },
      ENDS,
      PRICE,
    ],
  },
];

/** The rows of a table, one's own first. */
export function rowsOf(catalogue: Catalogue, table: ProductTable): Row[] {
  const rows = {
    pipe: catalogue.pipes.map((pipe) => pipe.product),
    fitting: catalogue.fittings,
    part: catalogue.parts,
    float_valve: catalogue.float_valves,
    vessel: catalogue.vessels,
  }[table];
  return rows;
}

/** Rows in which every word that is looked for stands somewhere. */
export function found(rows: Row[], words: string): Row[] {
  const sought = words.toLowerCase().split(/\s+/).filter(Boolean);
  const textOf = (row: Row) => Object.values(row).join(" ").toLowerCase();
  return rows.filter((row) => sought.every((word) => textOf(row).includes(word)));
}

const THREADS: Record<string, string> = {
  npt: "NPT thread",
  bspt: "R thread",
  bspp: "G thread",
  nh: "hose thread",
  s60: "coarse tote thread",
};
const OTHER_ENDS: Record<string, string> = {
  barb: "barb for",
  comp: "compression for",
  push: "push-fit",
  solvent: "solvent socket",
  open: "open",
};

/** Ends as people call them: "npt-m 3/4 @15" is a male 3/4 NPT thread. */
export function endsText(ends: string): string {
  const words = (end: string) => {
    const [, family = "", size = ""] = /^(\S+) (.+) @/.exec(end) ?? [];
    const [kind = "", side] = family.split("-");
    if (THREADS[kind]) return `${size} ${THREADS[kind]}, ${side === "m" ? "male" : "female"}`;
    const sized = size === "0" ? "" : ` ${size}${kind === "push" || kind === "solvent" ? "" : " mm"}`;
    return `${OTHER_ENDS[kind] ?? kind}${sized}`;
  };
  const told = ends
    .split(/\s*;\s*/)
    .filter(Boolean)
    .map(words);
  return [...new Set(told)]
    .map((one) => {
      const count = told.filter((other) => other === one).length;
      return count > 1 ? `${count} × ${one}` : one;
    })
    .join("; ");
}

/** What a column is called: a price for a length names the user's unit. */
export const titleText = (column: Column, system: System): string =>
  column.perLength ? `${column.title} per ${shownUnit("m", system)}` : column.title;

/** Money for a metre as money for the user's unit of length, and back. */
export const perShownLength = (perMetre: number, system: System): number =>
  perMetre / toShown(1, "m", system);
export const perMetreOf = (perShown: number, system: System): number => perShown * toShown(1, "m", system);

/** A figure of a row as people read it. */
export function cellText(value: string | number | null | undefined, column: Column, system: System): string {
  if (value === null || value === undefined || value === "") return "";
  if (column.key === "ends") return endsText(String(value));
  if (typeof value === "string") return value.replaceAll("_", " ");
  if (column.perLength) return figure(perShownLength(value, system), 2);
  if (!column.family) return String(value);
  const digits = Math.max(shownDigits(column.family, system), column.family === "mm" ? 1 : 0);
  return `${figure(toShown(value, column.family, system), digits)} ${shownUnit(column.family, system)}`;
}

/** What a row of one's own lacks before it can be kept, in words. */
export const lacking = (row: Partial<Row>, columns: Column[]): string[] =>
  columns
    .filter((column) => column.needed && (row[column.key] === undefined || row[column.key] === ""))
    .map((column) => column.title.toLowerCase());

/** A name that no other row has, from what it is called. */
export const idFrom = (name: string): string =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "")
    .slice(0, 50) || "row";
