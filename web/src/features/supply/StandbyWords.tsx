import Typography from "@mui/material/Typography";

import type { Design, Standby, StandbyTold } from "../../api/types";
import { durationText } from "../../shared/duration";
import { nameIn } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { priceText } from "../../shared/price";
import { quantityText, type System } from "../../shared/units";

interface Props {
  document: Design;
  standby: Standby;
  told: StandbyTold;
}

/** What a standby is good for, in sentences: for whom and how long, its reach, its load, its trips. */
export function StandbyWords({ document, standby, told }: Props) {
  const system = usePreferences((state) => state.system);
  const money = (value: number) => priceText(value, document.site.currency ?? "USD");
  return (
    <div data-testid={`standby-${told.id}`}>
      {[
        lastsText(document, standby, told, system),
        runsText(standby, told, system),
        reachText(told, standby, system),
        loadText(told, system),
        tripsText(told, money),
      ]
        .filter(Boolean)
        .map((sentence) => (
          <Typography component="p" key={sentence}>
            {sentence}
          </Typography>
        ))}
    </div>
  );
}

function lastsText(document: Design, standby: Standby, told: StandbyTold, system: System): string {
  const who = told.herds.length
    ? told.herds.join(", ")
    : `what is used at ${nameIn(document.vessels, standby.fills)}`;
  if (told.lasts_s === null) return "Nothing is used there in this case.";
  const need = quantityText({ value: told.need_lpd, unit: "L/d" }, system);
  return `It supplies ${who} (${need}) for ${durationText(told.lasts_s)}.`;
}

function runsText(standby: Standby, told: StandbyTold, system: System): string {
  const litres = (value: number) => quantityText({ value, unit: "L" }, system);
  const stays = told.stays_l > 1 ? ` ${litres(told.stays_l)} stay in it.` : "";
  if (told.first_lpm === null)
    return told.fall_m + (standby.deep_m ?? 1) <= 0
      ? "Its water does not rise to the brim of what it fills: it needs a pump or a higher stand."
      : `Bore and length of its hose say how fast it runs.${stays}`;
  const flow = quantityText({ value: told.first_lpm, unit: "L/min" }, system);
  const empties = told.empties_s === null ? "" : `, and is empty after ${durationText(told.empties_s)}`;
  return `${standby.pump_lpm == null ? "By itself" : "Its pump gives"} ${standby.pump_lpm == null ? `it begins with ${flow}` : flow}${empties}.${stays}`;
}

function reachText(told: StandbyTold, standby: Standby, system: System): string {
  const metres = (value: number) => quantityText({ value, unit: "m", digits: 0 }, system);
  const hose = told.reaches === null ? "" : told.reaches ? "; its hose reaches" : "; its hose does not reach";
  const fill =
    told.fills_away_m === null
      ? ""
      : ` Its filling point is ${metres(told.fills_away_m)} away${
          standby.fill_hose_m != null && standby.fill_hose_m >= told.fills_away_m
            ? ", which the hose there reaches: no trip is needed"
            : ""
        }.`;
  const away =
    told.away_m < 1
      ? "It stands at what it fills"
      : `It is ${metres(told.away_m)} to what it fills on the plan`;
  return `${away}${hose}.${fill}`;
}

function loadText({ load }: StandbyTold, system: System): string {
  const kilos = (value: number) => quantityText({ value, unit: "kg" }, system);
  const pressure = (value: number | null) =>
    value === null ? "" : ` (${quantityText({ value, unit: "kPa" }, system)})`;
  const full = `Full it weighs ${kilos(load.full_kg)}`;
  if (load.level_kg === null || load.uneven_kg === null) return `${full}.`;
  return `${full}: ${kilos(load.level_kg)}${pressure(load.level_kpa)} under each leg or pallet on level ground; where the ground is uneven two may carry all, ${kilos(load.uneven_kg)}${pressure(load.uneven_kpa)} each.`;
}

function tripsText(told: StandbyTold, money: (value: number) => string): string {
  if (told.trips_per_week === null) return "";
  const hours = told.hours_per_week === null ? "" : `, ${told.hours_per_week.toFixed(1)} hours`;
  const price = told.price_per_week === null ? "" : `, ${money(told.price_per_week)}`;
  const trips = `To bring all of it takes ${told.trips_per_week.toFixed(1)} trips a week${hours}${price}`;
  if (!hours && !price) return `${trips}.`;
  const line = told.line_price > 0 ? ` Its parts cost ${money(told.line_price)} as planned.` : "";
  const weeks =
    told.line_price > 0 && told.price_per_week
      ? ` By fuel and water alone that is paid back in ${(told.line_price / told.price_per_week).toFixed(0)} weeks.`
      : "";
  return `${trips}: that is what a fixed line saves.${line}${weeks}`;
}
