/** What stands in the menus of the bar. */
import type { Design } from "../../api/types";
import { download } from "../../shared/download";
import { savePicture } from "../../shared/picture";
import { quantityText, type System } from "../../shared/units";
import type { MenuEntry } from "./BarMenu";

const DRAWINGS = [
  { what: "Plan", find: "[data-testid=plan-drawing]", paper: "var(--lm-palette-chart-land)" },
  { what: "Profile", find: "[data-testid=section-drawing]", paper: "var(--lm-palette-chart-paper)" },
];

export const UNITS: Record<System, string> = {
  metric: "L · m · kPa · °C",
  us: "US gal · ft · psi · °F",
  imperial: "imp gal · ft · psi · °C",
};

/** The plan as a file, its drawings as pictures, and all of it as a printed sheet. */
export function fileEntries(title: string, document: Design | null): MenuEntry[] {
  const drawings = DRAWINGS.flatMap((drawing) => {
    const found = window.document.querySelector<SVGSVGElement>(drawing.find);
    return found ? [{ ...drawing, found }] : [];
  });
  return [
    {
      text: "Export design file",
      onChoose: () => download(JSON.stringify(document, null, 2), "application/json", title, "json"),
    },
    ...drawings.flatMap(({ what, found, paper }) =>
      (["svg", "png"] as const).map((kind) => ({
        text: `${what} as ${kind.toUpperCase()}`,
        onChoose: () => void savePicture(found, kind, `${title} ${what}`, paper),
      })),
    ),
    { text: "Print", onChoose: () => window.print() },
  ];
}

/** The units, one of which is chosen. */
export const unitEntries = (system: System, onChoose: (system: System) => void): MenuEntry[] =>
  (Object.keys(UNITS) as System[]).map((one) => ({
    text: UNITS[one],
    checked: one === system,
    onChoose: () => onChoose(one),
  }));

type Case = NonNullable<Design["scenarios"]>[number];

/** What a case is called, with its heat: "hot spell, air 31 °C". */
export function caseText(scenario: Case, ordinaryC: number | undefined, system: System): string {
  const air = scenario.air_c ?? ordinaryC;
  const heat = air === undefined ? "" : `, air ${quantityText({ value: air, unit: "°C" }, system)}`;
  return `${scenario.name ?? scenario.id}${heat}`;
}
