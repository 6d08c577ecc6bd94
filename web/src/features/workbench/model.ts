/** The views, how each stands, and which route is shown. */
import type { Analysis, Finding, Standing } from "../../api/types";

export type View = "need" | "water" | "lines";

export const VIEWS: { view: View; title: string; codes: string[] }[] = [
  { view: "need", title: "Need", codes: ["demand-over-refill"] },
  { view: "water", title: "Water in", codes: ["demand-over-refill", "days-in-hand"] },
  {
    view: "lines",
    title: "Lines",
    codes: ["dry-outlet", "flow-below-wanted", "refill-too-long", "vacuum-at-peak", "valve-needs-pressure"],
  },
];

const ORDER: Standing[] = ["stop", "fix", "watch", "fine"];

/** How a view stands: its worst finding. */
export function standingOf(findings: Finding[], codes: string[]): Standing {
  const severities = findings
    .filter((finding) => codes.includes(finding.code))
    .map((finding) => finding.severity);
  return ORDER.find((standing) => severities.some((severity) => severity === standing)) ?? "fine";
}

export const named = (part: { id: string; name?: string | null }): string => part.name ?? part.id;

/** The route that the section shows: of the selected outlet or the first with a way to water. */
export function shownRoute(analysis: Analysis | null, selected: string | null) {
  const routes = analysis?.routes.filter((route) => route.vessel) ?? [];
  return (
    routes.find((route) => route.outlet === selected || route.lines.includes(selected ?? "")) ??
    routes[0] ??
    null
  );
}
