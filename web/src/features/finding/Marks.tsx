import { memo } from "react";

import type { Design, Finding } from "../../api/types";
import type { Scale } from "../../shared/fit";
import type { ShownRoute } from "../../shared/route";
import { usePreferences } from "../../shared/preferences";
import { quantityText, type System } from "../../shared/units";
import { StandingGlyph } from "../../shared/StandingMark";
import { sectionAt } from "../section";
import { onPlan, onRoute, spotted } from "./spots";

const told = (finding: Finding, system: System) =>
  finding.headline_words
    .map((word) => (typeof word === "string" ? word : quantityText(word, system)))
    .join("");

/** What was found along the lines, on the plan; what lies under a mark is taken hold of as if it were not there. */
export const PlanMarks = memo(function PlanMarks({
  findings,
  document,
  scale,
}: {
  findings: readonly Finding[];
  document: Design;
  scale: Scale;
}) {
  const system = usePreferences((state) => state.system);
  return (
    <g data-testid="finding-marks" pointerEvents="none">
      {spotted(findings).map((one) => {
        const spot = onPlan(one, document);
        return spot ? (
          <StandingGlyph
            key={`${one.finding.code}-${one.line}-${one.atM}`}
            standing={one.finding.severity}
            x={scale.x(spot[0])}
            y={scale.y(spot[1])}
            title={told(one.finding, system)}
          />
        ) : null;
      })}
    </g>
  );
});

/** The same in the section, on the pipe. */
export function SectionMarks({
  findings,
  route,
  document,
  x,
  y,
}: {
  findings: readonly Finding[];
  route: ShownRoute;
  document: Design;
  x: (atM: number) => number;
  y: (heightM: number) => number;
}) {
  const system = usePreferences((state) => state.system);
  return (
    <g data-testid="section-findings" pointerEvents="none">
      {spotted(findings).map((one) => {
        const atM = onRoute(one, route, document);
        const at = atM === null ? null : sectionAt(route.section, atM);
        return at ? (
          <StandingGlyph
            key={`${one.finding.code}-${one.line}-${one.atM}`}
            standing={one.finding.severity}
            x={x(at.at_m)}
            y={y(at.pipe_m) + 11}
            title={told(one.finding, system)}
          />
        ) : null;
      })}
    </g>
  );
}
