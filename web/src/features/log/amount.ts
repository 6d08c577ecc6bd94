/** How much is mixed in, in words. */
import type { DoseAmount } from "../../api/types";
import type { System } from "../../shared/units";

const spoonText = (spoons: [number, string][]) =>
  spoons
    .map(([count, name]) => `${count} ${name}${count > 1 && name.endsWith("cup") ? "s" : ""}`)
    .join(" and ");

export function amountText(amount: DoseAmount, system: System): string {
  const spoons = system === "metric" ? amount.metric_spoons : amount.us_spoons;
  const told = amount.value < 10 ? amount.value.toFixed(1) : Math.round(amount.value).toLocaleString("en-US");
  return `${told} ${amount.unit}${spoons.length ? `, that is ${spoonText(spoons)}` : ""}`;
}
