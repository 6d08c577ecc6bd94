/** How much is mixed in, in words. */
import type { DoseAmount } from "../../api/types";
import type { System } from "../../shared/units";

/** between two doses where nobody says: the core's own */
export const USUAL_DAYS = 7;

const spoonText = (spoons: [number, string][]) =>
  spoons
    .map(([count, name]) => `${count} ${name}${count > 1 && name.endsWith("cup") ? "s" : ""}`)
    .join(" and ");

/** In grams or millilitres alone. */
export function baseText({ value, unit }: DoseAmount): string {
  return `${value < 10 ? value.toFixed(1) : Math.round(value).toLocaleString("en-US")} ${unit}`;
}

export function amountText(amount: DoseAmount, system: System): string {
  const spoons = system === "metric" ? amount.metric_spoons : amount.us_spoons;
  return `${baseText(amount)}${spoons.length ? `, that is ${spoonText(spoons)}` : ""}`;
}
