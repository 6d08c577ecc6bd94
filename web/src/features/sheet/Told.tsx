/** What the water does at an outlet or in a line, above the figures that it follows from. */
import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";

import type { Analysis } from "../../api/types";
import { ink } from "../../app/theme";
import { usePreferences } from "../../shared/preferences";
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
          all drawing <Got run={route.together} wanted={wanted} system={system} />
        </div>
        <div>
          alone <Got run={route.alone} wanted={wanted} system={system} />
        </div>
        <Box sx={{ color: ink("faint") }}>{shownUnit("L/min", system)}</Box>
      </Box>
      <Typography variant="body2">
        {answer.state}: {answer.reason}
        {answer.pressure_kpa !== null &&
          `, at ${quantityText({ value: answer.pressure_kpa, unit: "kPa" }, system)}`}
      </Typography>
      {air && (
        <Typography variant="body2" sx={{ color: ink("short") }}>
          ■ Where {air.line} sucks, the full line would give{" "}
          {air.full_pipe_lpm === null
            ? "nothing to count on: the water would boil"
            : quantityText({ value: air.full_pipe_lpm, unit: "L/min" }, system)}
          ; open to air there it gives {quantityText({ value: air.open_lpm, unit: "L/min" }, system)}. Counted
          on: {air.used === "full_pipe" ? "the full line, declared a siphon" : "open to air"}.
        </Typography>
      )}
    </Told>
  );
}

const SPEED_DIGITS = 2;

export function LineTold({ id, analysis }: Props) {
  const system = usePreferences((state) => state.system);
  const answer = analysis?.solution.lines[id];
  if (!answer) return null;
  const speed = `${figure(toShown(answer.velocity_ms, "m", system), SPEED_DIGITS)} ${shownUnit("m", system)}/s`;
  return (
    <Told>
      <Typography variant="body2">
        {answer.state === "running"
          ? `${quantityText({ value: Math.abs(answer.flow_lpm), unit: "L/min" }, system)} at ${speed}, taking ${quantityText({ value: Math.abs(answer.loss_m), unit: "m" }, system)}`
          : `${answer.state.replaceAll("_", " ")}: ${answer.reason}`}
      </Typography>
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
