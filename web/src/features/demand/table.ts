/** The need as a table for a spreadsheet: one row for each herd, crop and pond, then the hours and the season. */
import type { Analysis, Design } from "../../api/types";
import { csvText } from "../../shared/csv";
import { troughName } from "../../shared/names";

/** Return the need as comma-separated values, in the document's units. */
export function needTable(document: Design, need: Analysis["need"]): string {
  const rows: (string | number)[][] = [
    ["who", "head", "one_l_per_day", "all_l_per_day", "at", "source"],
    ...need.herds.map((herd) => [
      document.herds?.find((one) => one.id === herd.id)?.name ?? herd.id,
      herd.head,
      herd.per_head_lpd,
      herd.daily_l,
      herd.outlets.map((outlet) => troughName(document, outlet)).join(" / "),
      herd.source,
    ]),
    ...need.others.map((one) => [one.name, "", "", one.daily_l, troughName(document, one.where), one.how]),
  ];
  const cases = Object.keys(need.hours_l);
  if (cases.length) {
    rows.push(
      [],
      ["hour", ...cases.map((id) => `${document.scenarios?.find((one) => one.id === id)?.name ?? id} l`)],
    );
    for (let hour = 0; hour < 24; hour += 1)
      rows.push([hour, ...cases.map((id) => need.hours_l[id]?.[hour] ?? 0)]);
  }
  const outlets = Object.keys(need.season.asked_lpd);
  if (outlets.length) {
    rows.push([], ["day", ...outlets.map((outlet) => `${troughName(document, outlet)} l_per_day`)]);
    need.season.days.forEach((day, index) => {
      rows.push([day, ...outlets.map((outlet) => need.season.asked_lpd[outlet]?.[index] ?? 0)]);
    });
  }
  return csvText(rows);
}
