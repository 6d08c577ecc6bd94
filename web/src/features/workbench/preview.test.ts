import { describe, expect, it } from "vitest";

import type { Analysis, Finding, Preview } from "../../api/types";
import { previewed } from "./preview";

const COLUMNS = Object.fromEntries(
  [
    ...["flow_lpm", "wanted", "surface_m", "outlet_m", "pipe_loss_m", "fitting_loss_m", "left_m"],
    ...["valve_needs_m", "least_over_pipe_m", "draws_air", "spare"],
  ].map((name) => [name, []]),
);
const finding = (code: string, severity: string) =>
  ({ code, severity, where: code, headline_words: [`${code} is wrong`] }) as unknown as Finding;
const route = (outlet: string, flow: number) => ({
  outlet,
  lines: ["old"],
  section: ["old"],
  together: { flow_lpm: flow, state: "running", sounding: null, flow_range: { low: 1 }, grade: ["old"] },
  alone: { flow_lpm: 9 },
});
const before = (findings: Finding[]) =>
  ({
    routes: [route("a", 5), route("b", 6)],
    findings,
    beside_flow: { standing: "fine", sentence: ["beside"], watch: [" Watch: it."] },
    verdict: {
      standing: "fine",
      sentence: ["before"],
      numbers: [
        { key: "flow", value: 5 },
        { key: "days", value: 2 },
      ],
    },
  }) as unknown as Analysis;
const seen = (findings: Finding[]) =>
  ({
    outlets: { outlet: ["a"], state: ["running"], flow_lpm: [4] },
    soundings: { ...COLUMNS, outlet: ["a"], margin_m: [1] },
    way: { outlet: "a", vessel: "tank", lines: ["new"], length_m: 10, section: ["new"], grade: ["new"] },
    standing: findings[0]?.severity ?? "fine",
    sentence: ["seen"],
    flow: { key: "flow", value: 4 },
    findings,
    checked: ["dry-outlet", "flow-below-wanted"],
  }) as unknown as Preview;

describe("an analysis brought up to what was seen in passing", () => {
  it("has the new flows and the new way, and keeps what was not looked at", () => {
    const now = previewed(before([]), seen([]));
    expect(now.routes[0]?.together).toMatchObject({ flow_lpm: 4, flow_range: null, grade: ["new"] });
    expect(now.routes[0]?.together.sounding?.margin_m).toBe(1);
    expect(now.routes[0]?.lines).toEqual(["new"]);
    expect(now.routes[0]?.alone.flow_lpm).toBe(9);
    expect(now.routes[1]).toBe(now.routes[1]);
    expect(now.routes[1]?.together.flow_lpm).toBe(6);
    expect(now.verdict.numbers.map((number) => number.value)).toEqual([4, 2]);
    expect(now.verdict.sentence).toEqual(["seen"]);
  });

  it.each([
    [[], "fine", ["dry-outlet:stop"], ["seen"], "stop"],
    [["days-in-hand:fix"], "fix", [], ["beside"], "fix"],
    [["days-in-hand:stop"], "stop", ["flow-below-wanted:fix"], ["beside"], "stop"],
    [["dry-outlet:stop"], "fine", [], ["seen"], "fine"],
    [["days-in-hand:watch"], "watch", ["flow-below-wanted:fix"], ["seen"], "fix"],
    [["days-in-hand:watch"], "watch", [], ["seen", " Watch: it."], "watch"],
  ])(
    "with %s before, beside the flow %s, and %s now, says the worst",
    (was, beside, is, sentence, standing) => {
      const made = (list: string[]) => list.map((one) => finding(...(one.split(":") as [string, string])));
      const stood = before(made(was));
      Object.assign(stood.beside_flow, { standing: beside });
      const now = previewed(stood, seen(made(is)));
      expect(now.verdict.sentence).toEqual(sentence);
      expect(now.verdict.standing).toBe(standing);
      const kept = was.filter((one) => !one.startsWith("dry-outlet"));
      expect(now.findings).toHaveLength(kept.length + is.length);
    },
  );
});
