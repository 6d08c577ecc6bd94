/** A whole analysis brought up to a preview: flows, soundings and the answer on top. */
import type { Analysis, Finding, Preview, Sounding } from "../../api/types";

const SEVERITIES = ["stop", "fix", "watch"];
const RANK = ["stop", "fix", "watch", "fine", "unknown"];

export function previewed(before: Analysis, seen: Preview): Analysis {
  const others = before.findings.filter((finding) => !seen.checked.includes(finding.code));
  const findings = [...seen.findings, ...others].sort((a, b) => rank(a) - rank(b));
  const numbers = new Map(seen.outlets.outlet.map((id, number) => [id, number]));
  const soundings = soundingsOf(seen);
  const routes = before.routes.map((route) => {
    const number = numbers.get(route.outlet);
    if (number === undefined) return route;
    const way = seen.way?.outlet === route.outlet ? seen.way : null;
    const state = seen.outlets.state[number] ?? route.together.state;
    const flow_lpm = seen.outlets.flow_lpm[number] ?? route.together.flow_lpm;
    const sounding = soundings.get(route.outlet) ?? null;
    const together = { ...route.together, state, flow_lpm, sounding, flow_range: null };
    if (!way) return { ...route, together };
    const { vessel, lines, length_m, section, grade } = way;
    return { ...route, vessel, lines, length_m, section, together: { ...together, grade } };
  });
  return {
    ...before,
    routes,
    findings,
    verdict: {
      ...worse(before.beside_flow, seen),
      numbers: before.verdict.numbers.map((number) => (number.key === "flow" ? seen.flow : number)),
    },
  };
}

/** Where something else was found that is worse than what the flows say, the sentence stays with that. */
function worse(beside: Analysis["beside_flow"], { standing, sentence }: Preview) {
  if (RANK.indexOf(standing) <= RANK.indexOf(beside.standing)) return { standing, sentence };
  if (beside.standing === "watch")
    return { standing: beside.standing, sentence: [...sentence, ...beside.watch] };
  return { standing: beside.standing, sentence: beside.sentence };
}

/** Rows again of what came in columns. */
function soundingsOf({ soundings }: Preview): Map<string, Sounding> {
  const { outlet, flow_lpm, wanted, surface_m, outlet_m, pipe_loss_m, fitting_loss_m } = soundings;
  const { left_m, valve_needs_m, margin_m, least_over_pipe_m, draws_air, spare } = soundings;
  const row = (number: number): Sounding => ({
    flow_lpm: flow_lpm[number] ?? 0,
    wanted: wanted[number] ?? false,
    surface_m: surface_m[number] ?? 0,
    outlet_m: outlet_m[number] ?? 0,
    pipe_loss_m: pipe_loss_m[number] ?? 0,
    fitting_loss_m: fitting_loss_m[number] ?? 0,
    left_m: left_m[number] ?? 0,
    valve_needs_m: valve_needs_m[number] ?? 0,
    margin_m: margin_m[number] ?? 0,
    least_over_pipe_m: least_over_pipe_m[number] ?? null,
    draws_air: draws_air[number] ?? false,
    spare: spare[number] ?? null,
  });
  return new Map(outlet.map((id, number) => [id, row(number)]));
}

const rank = (finding: Finding) => SEVERITIES.indexOf(finding.severity);
