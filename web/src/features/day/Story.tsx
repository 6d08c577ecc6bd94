import Box from "@mui/material/Box";
import ButtonBase from "@mui/material/ButtonBase";
import Typography from "@mui/material/Typography";
import { useEffect, useRef, type ReactNode } from "react";

import type { DayRun, Design } from "../../api/types";
import { ink } from "../../app/theme";
import { durationText } from "../../shared/duration";
import { Said } from "../../shared/Said";
import { StandingMark } from "../../shared/StandingMark";
import { nameOfPart } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { quantityText } from "../../shared/units";
import { clockText, DAY_S } from "./model";

interface Props {
  document: Design;
  run: DayRun;
  lengthS: number;
  atS: number;
  onAt: (timeS: number) => void;
  /** what stands under it */
  children: ReactNode;
}

const STANDING = { stop: "stop", fix: "fix", watch: "watch", told: "fine" } as const;

/** What happens in a run, line by line; a click goes to its time. */
export function Story({ document, run, lengthS, atS, onAt, children }: Props) {
  const system = usePreferences((state) => state.system);
  const { summary } = run;
  const litres = (value: number) => quantityText({ value, unit: "L" }, system);
  const last = [...run.happenings].reverse().find((one) => one.time_s <= atS + 1);
  const list = useRef<HTMLUListElement>(null);
  const lastAt = last ? run.happenings.indexOf(last) : -1;
  useEffect(() => {
    const [box, line] = [list.current?.parentElement, list.current?.children[lastAt]];
    if (!box || !(line instanceof HTMLElement)) return;
    const [top, bottom] = [line.offsetTop, line.offsetTop + line.offsetHeight];
    if (top < box.scrollTop)
      box.scrollTop = top; // within the column alone: on a phone the page stays
    else if (bottom > box.scrollTop + box.clientHeight) box.scrollTop = bottom - box.clientHeight;
  }, [lastAt]);
  return (
    <Box
      sx={{ p: 4, overflowY: "auto", height: "100%", position: "relative" }}
      aria-label="What happens"
      role="region"
    >
      <Typography variant="h2">Does it last?</Typography>
      <Box sx={{ display: "flex", gap: 2, my: 2, fontWeight: 700 }} data-testid="day-verdict">
        <Box sx={{ pt: 0.5 }}>
          <StandingMark standing={STANDING[summary.weight]} size={13} />
        </Box>
        <span>
          <Said words={summary.sentence} />
        </span>
      </Box>
      <Box
        component="dl"
        sx={{
          display: "grid",
          gridTemplateColumns: "1fr auto",
          m: 0,
          mb: 4,
          "& dd": { m: 0, textAlign: "right" },
        }}
      >
        <dt>Lost unused</dt>
        <dd data-testid="day-lost">{litres(summary.lost_l)}</dd>
        {summary.store && (
          <>
            <dt>Lowest, {nameOfPart(document, summary.store)}</dt>
            <dd>
              {litres(summary.least_store_l)} at {clockText(summary.least_at_s, lengthS > DAY_S)}
            </dd>
          </>
        )}
        {summary.waiting.length > 0 && (
          <>
            <dt>Without water</dt>
            <dd>{waits(document, run)}</dd>
          </>
        )}
      </Box>
      <Typography variant="h2">What happens</Typography>
      <Box component="ul" ref={list} sx={{ listStyle: "none", p: 0, m: 0, mt: 1 }} data-testid="day-story">
        {run.happenings.length === 0 && (
          <li>Nothing but filling{document.herds?.length ? " and drinking" : ""}.</li>
        )}
        {run.happenings.map((one, index) => (
          <Box component="li" key={index} sx={{ borderBottom: `1px solid ${ink("rule")}` }}>
            <ButtonBase
              aria-current={index === lastAt ? "time" : undefined}
              sx={{
                display: "grid",
                gridTemplateColumns: lengthS > DAY_S ? "92px 1fr" : "50px 1fr",
                width: "100%",
                textAlign: "left",
                font: "inherit",
                alignItems: "start",
                minHeight: { xs: 44, md: 28 },
                py: 1,
                color: ink(one.weight === "stop" ? "short" : "ink"),
                fontWeight: one.weight === "stop" ? 700 : 400,
                bgcolor: index === lastAt ? ink("sheet") : undefined,
              }}
              onClick={() => onAt(one.time_s)}
            >
              <Box component="span" sx={{ color: ink("faint"), fontVariantNumeric: "tabular-nums" }}>
                {clockText(one.time_s, lengthS > DAY_S)}
              </Box>
              <span>
                <Said words={one.told} />
              </span>
            </ButtonBase>
          </Box>
        ))}
      </Box>
      {children}
    </Box>
  );
}

/** The herd that waits longest, and for how long in all. */
function waits(document: Design, run: DayRun): string {
  const seconds = new Map<string, number>();
  for (const one of run.summary.waiting)
    seconds.set(one.herd, (seconds.get(one.herd) ?? 0) + one.to_s - one.from_s);
  const [worst, long] = [...seconds].sort((a, b) => b[1] - a[1])[0] ?? ["", 0];
  return `${nameOfPart(document, worst)}, ${durationText(long)}`;
}
