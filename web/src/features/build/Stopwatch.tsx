import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useEffect, useState } from "react";

import type { FieldStep, LogEntry } from "../../api/types";
import { ink } from "../../app/theme";
import type { newEntry } from "../../shared/newEntry";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { quantityText } from "../../shared/units";
import { clockText, flowsOf } from "./firstWater";

const TICK_MS = 200;
const PAIL_L = 20; // to begin with; ours

/** The time now [ms since 1970], as often as a clock shows it while something runs. */
function useNow(runs: boolean): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (!runs) return;
    const timer = setInterval(() => setNow(Date.now()), TICK_MS);
    return () => clearInterval(timer);
  }, [runs]);
  return now;
}

interface ClockProps {
  /** when the source was opened [ms since 1970]; null where it is not */
  since: number | null;
  soonest: number | null;
  latest: number | null;
}

/** How long the source has been open, and between which times water should come. */
export function Clock({ since, soonest, latest }: ClockProps) {
  const now = useNow(since !== null);
  const passed = since === null ? null : (now - since) / 1000;
  const late = passed !== null && latest !== null && passed > latest;
  return (
    <Box sx={{ bgcolor: ink("rail"), p: 3 }} data-testid="clock">
      since the source was opened
      <Box sx={{ fontSize: 44, fontWeight: 700, color: ink(late ? "short" : "deep"), lineHeight: 1.2 }}>
        {passed === null ? "not open yet" : clockText(passed)}
      </Box>
      {soonest !== null && latest !== null && (
        <>
          expected between <strong>{clockText(soonest)}</strong> and <strong>{clockText(latest)}</strong>
          {late && ": it is late"}
        </>
      )}
    </Box>
  );
}

interface Props {
  step: FieldStep;
  timings: LogEntry[];
  onTimed: (told: Parameters<typeof newEntry>[0]) => Promise<void>;
}

/** A pail timed at an outlet, as often as wanted: the flow, its scatter, and the planned one beside it. */
export function Stopwatch({ step, timings, onTimed }: Props) {
  const system = usePreferences((state) => state.system);
  const [pail, setPail] = useState(PAIL_L);
  const [begun, setBegun] = useState<number | null>(null);
  const now = useNow(begun !== null);
  const flow = (value: number) => quantityText({ value, unit: "L/min" }, system);
  const planned = step.flow_lpm ?? 0;
  const { flows, mean, apart } = flowsOf(timings);
  const press = () => {
    if (begun === null) {
      setBegun(Date.now());
      return;
    }
    const seconds = Math.round((Date.now() - begun) / 100) / 10;
    setBegun(null);
    if (seconds >= 0.1)
      void onTimed({ kind: "timing", part: step.part ?? null, figures: { volume_l: pail, seconds } });
  };
  return (
    <Box sx={{ bgcolor: ink("rail"), p: 3 }} data-testid="stopwatch">
      <Box sx={{ width: 150 }}>
        <QuantityField label="Your pail" family="L" digits={1} value={pail} onChange={setPail} />
      </Box>
      <Button
        variant={begun === null ? "outlined" : "contained"}
        sx={{ width: "100%", minHeight: 84, fontSize: 30, my: 2 }}
        onClick={press}
      >
        {begun === null ? "Start" : `${((now - begun) / 1000).toFixed(1)} s · stop when full`}
      </Button>
      <Box>
        Planned: {flow(planned)}, the pail full in <strong>{Math.round((60 * pail) / planned)} s</strong>.
      </Box>
      {flows.length > 0 && (
        <Box data-testid="timed">
          Timed: {flows.map(flow).join(", ")}
          {flows.length > 1 && mean !== null && `; mean ${flow(mean)}`}.{" "}
          {apart && <strong>More than a tenth apart: time it once more.</strong>}
          {!apart && mean !== null && mean > 1.1 * planned && (
            <strong>
              That is {Math.round((100 * mean) / planned - 100)} % over the plan: does the pail hold that
              much?
            </strong>
          )}
          {!apart && mean !== null && mean < 0.9 * planned && (
            <strong>That is {Math.round(100 - (100 * mean) / planned)} % under the plan.</strong>
          )}
        </Box>
      )}
    </Box>
  );
}
