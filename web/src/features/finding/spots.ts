/** Where findings are: along a line on the plan, and along a way in the section. */
import type { Design, Finding } from "../../api/types";
import { MARK_COUNTS, type Area } from "../../shared/area";
import type { Scale } from "../../shared/fit";
import { legsOf, type ShownRoute } from "../../shared/route";
import { alongWay, wayOf, type Spot } from "../../shared/way";

export interface Spotted {
  finding: Finding;
  line: string;
  /** metres from the line's `from` end */
  atM: number;
}

const SEVERITIES = ["stop", "fix", "watch"];

/** Findings of one place along a line, of each place the worst. */
export function spotted(findings: readonly Finding[]): Spotted[] {
  const found = new Map<string, Spotted>();
  for (const finding of findings) {
    if (!finding.spot) continue;
    const { line, at_m: atM } = finding.spot;
    const key = `${line} ${Math.round(atM)}`;
    const before = found.get(key);
    if (!before || rank(finding) < rank(before.finding)) found.set(key, { finding, line, atM });
  }
  return [...found.values()];
}

const rank = (finding: Finding) => SEVERITIES.indexOf(finding.severity);

/** East and north of a place along a line; nothing where the line is gone. */
export function onPlan({ line, atM }: Spotted, document: Design): Spot | null {
  const own = document.lines?.find((one) => one.id === line);
  if (!own) return null;
  const length = own.length_m ?? (own.runs ?? []).reduce((sum, run) => sum + run.length_m, 0);
  return alongWay(wayOf(document, own), length > 0 ? Math.min(1, atM / length) : 0);
}

const MARK_PX = 16;

/** What the marks cover on the plan: labels keep off it. */
export const markAreas = (findings: readonly Finding[], document: Design, scale: Scale): Area[] =>
  spotted(findings)
    .map((one) => onPlan(one, document))
    .filter((spot) => spot !== null)
    .map(([east, north]) => ({
      x: scale.x(east) - MARK_PX / 2,
      y: scale.y(north) - MARK_PX / 2,
      width: MARK_PX,
      height: MARK_PX,
      weight: MARK_COUNTS,
    }));

/** Distance along a way of a place along one of its lines; nothing where it does not lie on it. */
export function onRoute({ line, atM }: Spotted, route: ShownRoute, document: Design): number | null {
  const leg = legsOf(route, document).find((one) => one.line === line);
  if (!leg) return null;
  return leg.forward ? leg.startM + atM : leg.endM - atM;
}
