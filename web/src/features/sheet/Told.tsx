/** What the water does at an outlet or in a line, above the figures that it follows from. */
import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";

import type { Analysis, Siphon } from "../../api/types";
import { ink } from "../../app/theme";
import { Caution } from "../../shared/Caution";
import { usePreferences } from "../../shared/preferences";
import { Said } from "../../shared/Said";
import { saidText } from "../../shared/saidText";
import { figure, quantityText, shownUnit, toShown } from "../../shared/units";
import { Got } from "./OutletTable";

function Told({ children }: { children: ReactNode }) {
  return (
    <Box data-testid="told" sx={{ borderLeft: `3px solid ${ink("deep")}`, pl: 2, mb: 3, lineHeight: 1.4 }}>
      {children}
    </Box>
  );
}

interface Props {
  id: string;
  analysis: Analysis | null;
  wanted?: number | null;
}

export function OutletTold({ id, analysis, wanted = null }: Props) {
  const system = usePreferences((state) => state.system);
  const route = analysis?.routes.find((one) => one.outlet === id);
  const answer = analysis?.solution.outlets[id];
  if (!route || !answer) return null;
  const air = answer.below_atmospheric;
  return (
    <Told>
      <Box sx={{ display: "flex", gap: 5, mb: 1 }}>
        <div>
          all running <Got run={route.together} wanted={wanted} system={system} />
        </div>
        <div>
          one at a time <Got run={route.alone} wanted={wanted} system={system} />
        </div>
        <Box sx={{ color: ink("faint") }}>{shownUnit("L/min", system)}</Box>
      </Box>
      <Typography variant="body2">
        {answer.state}: <Said words={answer.reason_words} />
        {answer.pressure_kpa !== null &&
          `, at ${quantityText({ value: answer.pressure_kpa, unit: "kPa" }, system)}`}
      </Typography>
      {air && (
        <Typography variant="body2" sx={{ color: ink("short") }}>
          ■ {air.line} is under suction; the full line would give{" "}
          {air.full_pipe_lpm === null
            ? "no flow: the water would boil"
            : quantityText({ value: air.full_pipe_lpm, unit: "L/min" }, system)}
          ; open to air there it gives {quantityText({ value: air.open_lpm, unit: "L/min" }, system)}. Counted
          on: {air.used === "full_pipe" ? "the full line, declared a siphon" : "open to air"}.
        </Typography>
      )}
    </Told>
  );
}

/** How high a siphon rises, how high it might, and what primes it. */
function SiphonTold({ siphon }: { siphon: Siphon }) {
  const system = usePreferences((state) => state.system);
  const metres = (value: number) => quantityText({ value, unit: "m" }, system);
  const litres = (value: number) => quantityText({ value, unit: "L" }, system);
  return (
    <>
      <Typography variant="body2">
        {siphon.lift_m > 0
          ? `Its highest point is ${metres(siphon.lift_m)} over the water it draws; about ${metres(siphon.limit_m)} is the most at this height and warmth. `
          : "Its highest point is below the water it draws from: it needs no priming. "}
        {siphon.spare_m < 0
          ? `Running, it is ${metres(-siphon.spare_m)} too much: it breaks.`
          : siphon.lift_m > 0 &&
            `Priming it through the crest takes ${litres(siphon.prime_l)}, and with a foot valve ${litres(siphon.prime_with_foot_valve_l)}.`}
      </Typography>
      <Caution>
        Suction on a hose can start a siphon; never by mouth. Pond water is not drinking water for people.
      </Caution>
    </>
  );
}

const SPEED_DIGITS = 2;

export function LineTold({ id, analysis }: Props) {
  const system = usePreferences((state) => state.system);
  const answer = analysis?.solution.lines[id];
  const siphon = analysis?.siphons.find((one) => one.line === id);
  if (!answer) return null;
  const speed = `${figure(toShown(answer.velocity_ms, "m", system), SPEED_DIGITS)} ${shownUnit("m", system)}/s`;
  return (
    <Told>
      <Typography variant="body2">
        {answer.state === "running"
          ? `${quantityText({ value: Math.abs(answer.flow_lpm), unit: "L/min" }, system)} at ${speed}, taking ${quantityText({ value: Math.abs(answer.loss_m), unit: "m" }, system)}`
          : `${answer.state.replaceAll("_", " ")}: ${saidText(answer.reason_words, system)}`}
      </Typography>
      {siphon && <SiphonTold siphon={siphon} />}
      {answer.hazen_williams_ratio !== null && (
        <Typography variant="caption" color="text.secondary">
          A Hazen–Williams table reads {figure(answer.hazen_williams_ratio * 100, 0)} % of this friction.
        </Typography>
      )}
      {answer.state === "running" && answer.hazen_williams_ratio === null && (
        <Typography variant="caption" color="text.secondary">
          Too slow for Hazen–Williams tables (Reynolds number {figure(answer.reynolds, 0)}, under 4 000): they
          do not hold here.
        </Typography>
      )}
    </Told>
  );
}
