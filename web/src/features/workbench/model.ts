/** The views, how each stands, and which route is shown. */
import type { Design, Finding, Standing } from "../../api/types";
import { keyInWords } from "../../shared/figure";

export type View = "demand" | "supply" | "ground" | "lines" | "day" | "options" | "parts" | "build" | "log";

export const VIEWS: { view: View; title: string; codes: string[] }[] = [
  {
    view: "demand",
    title: "Demand",
    codes: [
      "trough-runs-empty",
      "flow-below-pattern",
      "rim-too-short",
      "own-figure-unlikely",
      "water-too-far",
      "figures-assumed",
      "flow-below-plants",
      "strength-drifts",
      "nipples-above-water",
      "room-below-rule",
      "timers-clash",
      "trough-too-light",
      "unattended-fill",
      "never-catches-up",
      "pot-lags",
      "top-up-hides-leak",
      "waves-reach-overflow",
      "chlorine-passes",
      "pump-left-dry",
      "pump-off-floods",
    ],
  },
  {
    view: "supply",
    title: "Supply",
    codes: [
      "tank-empties-over",
      "demand-over-refill",
      "days-in-hand",
      "season-gap",
      "weather-lacks-heat",
      "source-not-timed",
      "one-source",
      "ram-shut-in",
      "ram-cannot-lift",
      "ram-has-no-way-out",
      "ram-lifts-too-high",
      "drive-pipe-length",
      "backflow",
      "no-air-gap",
      "first-flush-missing",
      "pump-starts-often",
      "load-over-limit",
      "dead-volume",
      "overflow-too-small",
      "stand-overloaded",
      "container-unfit",
      "out-of-reach",
      "standby-out-of-reach",
      "standby-overloaded",
      "link-too-small",
    ],
  },
  { view: "ground", title: "Ground", codes: ["misclosure", "heights-disagree", "pipe-too-short"] },
  {
    view: "lines",
    title: "Lines",
    codes: [
      "thread-chain",
      "air-lock",
      "air-not-cleared",
      "hammer",
      "leak-empties-store",
      "low-outlet-takes-all",
      "neck",
      "no-check-valve",
      "no-drain",
      "no-filter",
      "no-isolating-valve",
      "overflow-below-float",
      "silt-settles",
      "too-fast",
      "no-answer",
      "class-exceeded",
      "pipe-too-hot",
      "valve-cannot-shut",
      "draw-short",
      "dry-outlet",
      "flow-below-wanted",
      "flow-uncertain",
      "refill-too-long",
      "vacuum-at-peak",
      "valve-needs-pressure",
    ],
  },
  { view: "day", title: "Day", codes: [] },
  { view: "options", title: "Options", codes: [] },
  { view: "parts", title: "Parts", codes: ["joints-narrow"] },
  {
    view: "build",
    title: "Build",
    codes: [
      "closes-over-hole",
      "float-hits",
      "hole-unfit",
      "reopens-too-low",
      "line-freezes",
      "bleed-over-source",
      "undrained-dip",
      "ice-closes-outlet",
      "core-used-up",
    ],
  },
  { view: "log", title: "Log", codes: [] },
];

const ORDER: Standing[] = ["stop", "fix", "watch", "fine"];

/** How a view stands: its worst finding. */
export function standingOf(findings: Finding[], codes: string[]): Standing {
  const severities = findings
    .filter((finding) => codes.includes(finding.code))
    .map((finding) => finding.severity);
  return ORDER.find((standing) => severities.some((severity) => severity === standing)) ?? "fine";
}

/** The outlet whose way the section shows while a part is chosen; the first where that has none. */
export function outletShown(document: Design | null, selected: string | null): string | null {
  const outlets = document?.outlets ?? [];
  const own = outlets.find((outlet) => outlet.id === selected || outlet.fills === selected);
  return (own ?? outlets[0])?.id ?? null;
}

/** Say in words which figure a JSON pointer means: "Chambers, level". */
export function placeOf(path: string, document: Design): string {
  const [kind = "", index = "", ...keys] = path
    .replace(/^\/document/, "")
    .slice(1)
    .split("/");
  const listed = (document as unknown as Record<string, unknown>)[kind];
  const part: unknown = Array.isArray(listed) ? listed[Number(index)] : undefined;
  const figure = keyInWords(keys.at(-1) ?? (index || kind));
  if (!part || typeof part !== "object") return figure;
  const { name, id } = part as { name?: string; id?: string };
  return `${name ?? id ?? kind}, ${figure}`;
}
