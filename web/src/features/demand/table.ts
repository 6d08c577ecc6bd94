/** The demand as a table for a spreadsheet: one row for each herd, crop and pond, then the hours and the season. */
import type { Analysis, Design } from "../../api/types";
import { csvText } from "../../shared/csv";
import { bare, volumeUnit } from "../../shared/csvUnits";
import { troughName } from "../../shared/names";
import type { System } from "../../shared/units";

/** Return the demand as comma-separated values, in the user's units. */
export function demandTable(document: Design, demand: Analysis["demand"], system: System): string {
  const unit = volumeUnit(system);
  const daily = (litres: number) => bare(litres, "L/d", system);
  const rows: (string | number)[][] = [
    ["who", "head", `one_${unit}_per_day`, `all_${unit}_per_day`, "at", "source"],
    ...demand.herds.map((herd) => [
      document.herds?.find((one) => one.id === herd.id)?.name ?? herd.id,
      herd.head,
      daily(herd.per_head_lpd),
      daily(herd.daily_l),
      herd.outlets.map((outlet) => troughName(document, outlet)).join(" / "),
      herd.source,
    ]),
    ...demand.others.map((one) => [
      one.name,
      "",
      "",
      daily(one.daily_l),
      troughName(document, one.where),
      one.how,
    ]),
  ];
  const cases = Object.keys(demand.hours_l);
  if (cases.length) {
    rows.push(
      [],
      [
        "hour",
        ...cases.map((id) => `${document.scenarios?.find((one) => one.id === id)?.name ?? id} ${unit}`),
      ],
    );
    for (let hour = 0; hour < 24; hour += 1)
      rows.push([hour, ...cases.map((id) => bare(demand.hours_l[id]?.[hour] ?? 0, "L", system))]);
  }
  const outlets = Object.keys(demand.season.asked_lpd);
  if (outlets.length) {
    rows.push([], ["day", ...outlets.map((outlet) => `${troughName(document, outlet)} ${unit}_per_day`)]);
    demand.season.days.forEach((day, index) => {
      rows.push([day, ...outlets.map((outlet) => daily(demand.season.asked_lpd[outlet]?.[index] ?? 0))]);
    });
  }
  return csvText(rows);
}
