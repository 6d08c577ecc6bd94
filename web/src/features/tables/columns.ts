/** What the tables show of each kind of part, and how each figure is changed. */
import type { Catalogue, Design, DesignEdit, Line, Outlet, Paddock, Place, Vessel } from "../../api/types";
import { placeIdOf } from "../../shared/ground";
import { named, troughName } from "../../shared/names";
import type { Family } from "../../shared/units";
import { standing } from "../../shared/standing";
import { requirementOf } from "../sheet";

export type Kind = "places" | "vessels" | "lines" | "outlets" | "paddocks";

type Value = string | number | null;

export interface Column<Part> {
  key: string;
  title: string;
  of: (part: Part, document: Design) => Value;
  /** a number in the document's unit; text without one */
  family?: Family;
  digits?: number;
  options?: (document: Design, catalogue: Catalogue | undefined) => { value: string; text: string }[];
  /** not there: only told */
  put?: (draft: Design, part: Part, value: Value) => void;
  /** the same where the server makes the change */
  edit?: (part: Part, value: Value, catalogue: Catalogue | undefined) => DesignEdit | null;
  /** the figure may be emptied */
  optional?: boolean;
}

const own = <Part extends { id: string }>(parts: Part[] | undefined, part: Part): Part | undefined =>
  parts?.find((one) => one.id === part.id);

const name = <Part extends { id: string; name?: string | null }>(
  list: (draft: Design) => Part[] | undefined,
): Column<Part> => ({
  key: "name",
  title: "Name",
  of: (part) => part.name ?? null,
  optional: true,
  put: (draft, part, value) => {
    const found = own(list(draft), part);
    if (found) found.name = typeof value === "string" && value ? value.slice(0, 120) : null;
  },
});

const number = <Part extends { id: string }>(
  list: (draft: Design) => Part[] | undefined,
  key: keyof Part & string,
  title: string,
  family: Family,
  digits: number,
  usual: number | null = 0,
): Column<Part> => ({
  key,
  title,
  family,
  digits,
  optional: usual === null,
  of: (part) => (part[key] as number | null | undefined) ?? usual,
  put: (draft, part, value) => {
    const found = own(list(draft), part);
    if (found && (value !== null || usual === null)) (found as Record<string, unknown>)[key] = value;
  },
});

const PLACES: Column<Place>[] = [
  name((draft) => draft.places),
  {
    key: "east",
    title: "East",
    family: "m",
    digits: 2,
    of: (place) => place.east_m,
    edit: (place, value) => ({ kind: "move_places", places: { [place.id]: [Number(value), place.north_m] } }),
  },
  {
    key: "north",
    title: "North",
    family: "m",
    digits: 2,
    of: (place) => place.north_m,
    edit: (place, value) => ({ kind: "move_places", places: { [place.id]: [place.east_m, Number(value)] } }),
  },
  {
    key: "ground",
    title: "Ground",
    family: "m",
    digits: 2,
    of: (place) => place.ground_m,
    edit: (place, value) => ({ kind: "set_ground", place: place.id, ground_m: Number(value) }),
  },
  number((draft) => draft.places, "height_error_m", "Known to ±", "m", 2, null),
  { key: "from", title: "Height from", of: (place) => place.height_from ?? null },
];

const VESSELS: Column<Vessel>[] = [
  name((draft) => draft.vessels),
  { key: "role", title: "Kind", of: (vessel) => vessel.role?.replace("_", " ") ?? "tank" },
  { key: "place", title: "Stands at", of: (vessel, document) => placeName(document, vessel.id) },
  number((draft) => draft.vessels, "stand_m", "Stand", "m", 2),
  number((draft) => draft.vessels, "level_m", "Level now", "m", 2),
  number((draft) => draft.vessels, "outlet_m", "Outlet over floor", "m", 2),
  number((draft) => draft.vessels, "overflow_m", "Overflow", "m", 2, null),
];

const LINES: Column<Line>[] = [
  name((draft) => draft.lines),
  { key: "from", title: "From", of: (line, document) => endName(document, line.from) },
  { key: "to", title: "To", of: (line, document) => endName(document, line.to) },
  {
    key: "product",
    title: "Pipe",
    of: (line) => line.product ?? "",
    options: (_, catalogue) => (catalogue?.pipes ?? []).map((pipe) => ({ value: pipe.id, text: pipe.name })),
    edit: (line, value, catalogue) => {
      const pipe = catalogue?.pipes.find((one) => one.id === value);
      return pipe ? { kind: "set_pipe", line: line.id, product: pipe.product } : null;
    },
  },
  {
    key: "length",
    title: "Length",
    family: "m",
    digits: 1,
    of: (line) => line.length_m ?? null,
    edit: (line, value) => ({ kind: "set_length", line: line.id, length_m: Number(value) }),
  },
  number((draft) => draft.lines, "cover_m", "Cover", "m", 2),
  {
    key: "shut",
    title: "Shut by hand",
    of: (line) => (line.shut ? "shut" : "open"),
    options: () => ["open", "shut"].map((value) => ({ value, text: value })),
    put: (draft, line, value) => {
      const found = own(draft.lines, line);
      if (found) found.shut = value === "shut";
    },
  },
];

const OUTLETS: Column<Outlet>[] = [
  name((draft) => draft.outlets),
  { key: "kind", title: "Kind", of: (outlet) => outlet.kind.replace("_", " ") },
  { key: "place", title: "Stands at", of: (outlet, document) => placeName(document, outlet.id) },
  number((draft) => draft.outlets, "height_m", "Over ground", "m", 2),
  {
    key: "kv",
    title: "Valve passes (Kv)",
    family: "m³/h",
    digits: 2,
    of: (outlet) => (outlet.kind === "float_valve" ? outlet.valve.kv_m3h : null),
    put: (draft, outlet, value) => {
      const found = own(draft.outlets, outlet);
      if (found?.kind === "float_valve" && value !== null) found.valve.kv_m3h = Number(value);
    },
  },
  {
    key: "wanted",
    title: "Flow wanted",
    family: "L/min",
    digits: 1,
    optional: true,
    of: (outlet, document) =>
      document.requirements?.find((one) => one.outlet === outlet.id)?.flow_lpm ?? null,
    put: (draft, outlet, value) =>
      void (requirementOf(draft, outlet.id).flow_lpm = value === null ? null : Number(value)),
  },
];

const PADDOCKS: Column<Paddock>[] = [
  name((draft) => draft.paddocks),
  {
    key: "outlet",
    title: "Water from",
    of: (paddock) => paddock.outlet ?? null,
    options: (document) =>
      (document.outlets ?? []).map((one) => ({ value: one.id, text: troughName(document, one.id) })),
    put: (draft, paddock, value) => {
      const found = own(draft.paddocks, paddock);
      if (found && typeof value === "string") found.outlet = value;
    },
  },
  number((draft) => draft.paddocks, "farthest_m", "Longest walk to water", "m", 0, null),
  { key: "corners", title: "Corners", of: (paddock) => paddock.corners?.length ?? 0 },
];

/** Every kind of part with its columns; the parts are typed by the kind they stand under. */
export const TABLES: { kind: Kind; title: string; columns: Column<never>[] }[] = [
  { kind: "outlets", title: "Outlets", columns: OUTLETS },
  { kind: "vessels", title: "Vessels", columns: VESSELS },
  { kind: "lines", title: "Lines", columns: LINES },
  { kind: "places", title: "Places", columns: PLACES },
  { kind: "paddocks", title: "Paddocks", columns: PADDOCKS },
];

const placeName = (document: Design, id: string) => {
  const place = document.places.find((one) => one.id === placeIdOf(document, id));
  return place ? named(place) : id;
};

const endName = (document: Design, id: string) => {
  const part = [...standing(document), ...document.places].find((one) => one.id === id);
  return part ? named(part) : id;
};

/** Parts in the order of a column: numbers by size, words by the alphabet, what is empty last. */
export function sorted<Part>(
  parts: readonly Part[],
  column: Column<Part>,
  document: Design,
  down: boolean,
): Part[] {
  const by = (part: Part) => column.of(part, document);
  return [...parts].sort((a, b) => {
    const [x, y] = [by(a), by(b)];
    if (x === null || x === "" || y === null || y === "")
      return Number(x === null || x === "") - Number(y === null || y === "");
    const order =
      typeof x === "number" && typeof y === "number"
        ? x - y
        : String(x).localeCompare(String(y), "en", { numeric: true });
    return down ? -order : order;
  });
}
