/** Where findings are: along a line on the plan, and along a way in the section. */
import type { Design, Finding } from "../../api/types";
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

/** East and north of every mark on the plan. */
export const spotsOnPlan = (findings: readonly Finding[], document: Design): Spot[] =>
  spotted(findings)
    .map((one) => onPlan(one, document))
    .filter((spot) => spot !== null);

/** Distance along a way of a place along one of its lines; nothing where it does not lie on it. */
export function onRoute({ line, atM }: Spotted, route: ShownRoute, document: Design): number | null {
  const leg = legsOf(route, document).find((one) => one.line === line);
  if (!leg) return null;
  return leg.forward ? leg.startM + atM : leg.endM - atM;
}
