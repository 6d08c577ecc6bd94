/** The shopping list as rows: in order of shops, in words, and as a table for a spreadsheet. */
import type { Design, PartsNeeded } from "../../api/types";
import { csvText } from "../../shared/csv";
import { bare } from "../../shared/csvUnits";
import { nameOfPart } from "../../shared/names";
import { saidText } from "../../shared/saidText";
import { quantityText, shownUnit, type System } from "../../shared/units";

export type NeededRow = PartsNeeded["rows"][number];

/** A length of pipe, to the decimetre where it is not whole. */
export const metresText = (value: number, system: System): string =>
  quantityText({ value, unit: "m", digits: system === "metric" && value % 1 ? 1 : 0 }, system);

/** How many of it, in words: pieces as a bare number. */
export function countText(count: number, row: NeededRow, system: System): string {
  if (row.unit === "m") return metresText(count, system);
  if (row.unit === "roll" && row.roll_m)
    return `${count} ${count === 1 ? "roll" : "rolls"} of ${metresText(row.roll_m, system)}`;
  return String(count);
}

/** The same where the length of a roll stands beside it. */
export const shortCount = (count: number, row: NeededRow, system: System): string =>
  row.unit === "roll" ? `${count} ${count === 1 ? "roll" : "rolls"}` : countText(count, row, system);

const FEW = 2;

/** The first of several remarks, and how many more there are. */
export const fewText = (remarks: readonly string[]): string =>
  remarks.slice(0, FEW).join("; ") + (remarks.length > FEW ? `; and ${remarks.length - FEW} more` : "");

/** The rows of each kind of shop, in the order in which they come. */
export function byShop(rows: NeededRow[]): { shop: string; rows: NeededRow[] }[] {
  const shops = [...new Set(rows.map((row) => row.shop))];
  return shops.map((shop) => ({ shop, rows: rows.filter((row) => row.shop === shop) }));
}

/** Note that so many of a product are in the shed: none of it leaves no trace. */
export function ownedInShed(draft: Design, product: string, count: number): void {
  const others = (draft.shed ?? []).filter((item) => item.product !== product);
  draft.shed = count > 0 ? [...others, { product, count }] : others;
}

/** What is left to buy, and what is not, as comma-separated values in the user's units. */
export function listCsv(document: Design, needed: PartsNeeded, system: System): string {
  const metre = shownUnit("m", system);
  const inUnit = (count: number, row: NeededRow) => (row.unit === "m" ? bare(count, "m", system) : count);
  const unitOf = (row: NeededRow) =>
    row.unit === "m"
      ? metre
      : row.unit === "roll" && row.roll_m
        ? `roll of ${metresText(row.roll_m, system)}`
        : "piece";
  const pricedBy = (row: NeededRow) =>
    row.price === null ? "" : row.unit === "m" ? row.price / bare(1, "m", system) : row.price;
  return csvText([
    [
      "shop", "part", "product_id", "unit", "needed", "in_shed", "to_buy",
      `each_${needed.currency}`, `total_${needed.currency}`, "where", "assumed", "size", "price_from",
    ], // prettier-ignore
    ...needed.rows.map((row) => [
      row.shop,
      row.name,
      row.product_id,
      unitOf(row),
      inUnit(row.count, row),
      inUnit(row.owned, row),
      inUnit(row.to_buy, row),
      pricedBy(row),
      row.total ?? "",
      row.where.map((id) => nameOfPart(document, id)).join("; "),
      row.assumed.join("; "),
      row.details.map((line) => saidText(line, system)).join("; "),
      row.paid,
    ]),
  ]);
}
