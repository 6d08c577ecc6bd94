/** A whole analysis brought up to what was seen in passing: flows, soundings and the answer on top. */
import type { Analysis, Finding, Glimpse, Words } from "../../api/types";

const SEVERITIES = ["stop", "fix", "watch"];

/** Where something else was found that is worse than what the flows say, the sentence stays with that. */
export function seenInPassing(before: Analysis, seen: Glimpse): Analysis {
  const others = before.findings.filter((finding) => !seen.checked.includes(finding.code));
  const findings = [...seen.findings, ...others].sort((a, b) => rank(a) - rank(b));
  const worst = findings[0];
  const own = !worst || seen.findings.includes(worst);
  const routes = before.routes.map((route) => {
    const outlet = seen.outlets[route.outlet];
    if (!outlet) return route;
    const way = seen.way?.outlet === route.outlet ? seen.way : null;
    const { state, flow_lpm, sounding } = outlet;
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
      standing: own ? seen.standing : worst.severity,
      sentence: own ? seen.sentence : sentenceOf(worst, seen),
      numbers: before.verdict.numbers.map((number) => (number.key === "flow" ? seen.flow : number)),
    },
  };
}

const rank = (finding: Finding) => SEVERITIES.indexOf(finding.severity);

const sentenceOf = (worst: Finding, seen: Glimpse): Words =>
  worst.severity === "watch"
    ? [...seen.sentence, " Watch: ", ...worst.headline_words, "."]
    : [worst.severity === "stop" ? "No: " : "Yes, but: ", ...worst.headline_words, "."];
