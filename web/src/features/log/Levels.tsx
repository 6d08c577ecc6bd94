import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import { expectLevels, readLevels } from "../../api/field";
import type { Design, Levels as Told } from "../../api/types";
import { ink } from "../../app/theme";
import { Choice } from "../../shared/Choice";
import { useQueue } from "../../shared/logQueue";
import { nameOfPart } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { QueueTold } from "../../shared/QueueTold";
import { saidText } from "../../shared/saidText";
import { quantityText } from "../../shared/units";
import { useKept } from "../../shared/useKept";
import { useSettled } from "../../shared/useSettled";
import { useSize } from "../../shared/useSize";
import type { LogProps } from "./Entries";
import { pathOf, spanOf, type Frame } from "./levels";

const EDGE = { height: 220, left: 48, right: 8, top: 8, bottom: 24 };
const HOUR_MS = 3_600_000;

interface Asked {
  document: Design;
  vessel: string;
}

/** What the run of a day that the plan expects begins with. */
interface Since extends Asked {
  midnight: string;
  level_m: number;
}

/** The levels of a tank as a sensor and a stick say them, beside what the plan expects, and what that says. */
export function Levels({ designId, document }: LogProps) {
  const taken = useQueue((queue) => queue.taken);
  const stores = (document.vessels ?? []).filter(({ role }) => role !== "trough");
  const vessels = stores.map(({ id }) => id);
  const first = (stores.find(({ role }) => (role ?? "tank") === "tank") ?? stores[0])?.id ?? "";
  const [vessel, setVessel] = useState("");
  const chosen = vessels.includes(vessel) ? vessel : first;
  const [asked, setAsked] = useState<Asked>({ document, vessel: chosen });
  if (asked.document !== document || asked.vessel !== chosen) setAsked({ document, vessel: chosen });
  const told = useKept(
    useSettled(["levels", designId, taken], asked, chosen ? asked : null, (now: Asked, signal) =>
      readLevels(designId, now, signal),
    ),
  );
  const [since, setSince] = useState<Since | null>(null);
  const begins = told?.vessel === chosen ? told.since : null;
  const next = begins && { document, vessel: chosen, midnight: begins[0], level_m: begins[1] };
  if (!isSame(since, next)) setSince(next);
  const expected =
    useSettled(["levels expected", designId], since, since, (now: Since, signal) =>
      expectLevels(designId, now, signal),
    )?.expected ?? [];
  return (
    <Box component="section" aria-label="Levels" sx={{ maxWidth: 760 }}>
      <Box sx={{ p: 4 }}>
        <Typography variant="h1">Levels</Typography>
        {!chosen && <Typography>No tank is on the plan yet.</Typography>}
        {chosen && (
          <Box sx={{ maxWidth: 300, my: 3 }}>
            <Choice
              label="Of"
              value={chosen}
              options={vessels.map((id) => ({ value: id, text: nameOfPart(document, id) }))}
              onChange={setVessel}
            />
          </Box>
        )}
        {told && told.vessel === chosen ? (
          <Shown told={told} expected={expected} />
        ) : (
          chosen && <p>Asking the sensor …</p>
        )}
      </Box>
      <QueueTold designId={designId} />
    </Box>
  );
}

const isSame = (one: Since | null, other: Since | null) =>
  one?.document === other?.document &&
  one?.vessel === other?.vessel &&
  one?.midnight === other?.midnight &&
  one?.level_m === other?.level_m;

interface ShownProps {
  told: Told;
  expected: Told["readings"];
}

function Shown({ told, expected }: ShownProps) {
  const { system } = usePreferences();
  const nothing = !told.readings.length && !told.stick.length;
  const last = told.readings.at(-1);
  return (
    <>
      {told.trouble && (
        <Typography role="status" sx={{ color: ink("little"), fontWeight: 700 }}>
          {told.trouble} What was read by dipstick is shown.
        </Typography>
      )}
      {nothing && (
        <Typography>
          No level is known: {told.source ? "the sensor said nothing" : "no sensor is set up"}, and no
          dipstick was read. Read one under Measured.
        </Typography>
      )}
      {last && (
        <Box data-testid="level-now">
          {told.source}: <strong>{quantityText({ value: last[1], unit: "m" }, system)}</strong> at{" "}
          {new Date(last[0]).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" })}
        </Box>
      )}
      <Box component="ul" aria-label="What the levels say" sx={{ listStyle: "none", pl: 0 }}>
        {told.findings.map((one) => (
          <Box
            component="li"
            key={one.code}
            data-testid={`finding-${one.code}`}
            sx={{ bgcolor: ink("rail"), p: 3, my: 2 }}
          >
            <span aria-hidden style={{ color: ink("short") }}>
              ■{" "}
            </span>
            {saidText(one.told, system)}
          </Box>
        ))}
      </Box>
      {!nothing && !told.findings.length && <Typography>Nothing is off by these levels.</Typography>}
      {!nothing && <Picture told={told} expected={expected} />}
    </>
  );
}

function Picture({ told, expected }: ShownProps) {
  const { system } = usePreferences();
  const [box, size] = useSize<HTMLElement>();
  const frame: Frame = { ...EDGE, width: Math.max(EDGE.left + EDGE.right + 40, size.width) };
  const span = spanOf({ ...told, expected });
  const line = (series: Told["readings"]) => pathOf(series, span, frame);
  const heights = [0, told.full_m / 2, told.full_m];
  const y = (level: number) =>
    frame.top + (1 - level / span.most_m) * (frame.height - frame.top - frame.bottom);
  const x = (at: number) =>
    frame.left + ((at - span.from) / (span.to - span.from)) * (frame.width - frame.left - frame.right);
  const midnights = span.midnights;
  const what = `Levels over ${Math.round((span.to - span.from) / HOUR_MS)} hours`;
  return (
    <figure ref={box} style={{ margin: 0 }}>
      <svg
        viewBox={`0 0 ${frame.width} ${frame.height}`}
        role="img"
        aria-label={what}
        width={frame.width}
        height={frame.height}
      >
        {heights.map((level) => (
          <g key={level}>
            <line
              x1={frame.left}
              x2={frame.width - frame.right}
              y1={y(level)}
              y2={y(level)}
              stroke={ink("rule")}
            />
            <text x={frame.left - 4} y={y(level) + 4} textAnchor="end" fontSize={11} fill={ink("faint")}>
              {quantityText({ value: level, unit: "m", digits: 1 }, system)}
            </text>
          </g>
        ))}
        {midnights.map((at) => (
          <g key={at}>
            <line
              x1={x(at)}
              x2={x(at)}
              y1={frame.top}
              y2={frame.height - frame.bottom}
              stroke={ink("rule")}
              strokeDasharray="2 3"
            />
            <text x={x(at) + 3} y={frame.height - 8} fontSize={11} fill={ink("faint")}>
              {new Date(at).toLocaleDateString(undefined, { weekday: "short", day: "numeric" })}
            </text>
          </g>
        ))}
        <path d={line(expected)} fill="none" stroke={ink("little")} strokeWidth={3} strokeDasharray="7 4" />
        <path d={line(told.readings)} fill="none" stroke={ink("deep")} strokeWidth={2} />
        {told.stick.map(([when, level]) => (
          <circle key={when} cx={x(Date.parse(when))} cy={y(level)} r={4} fill={ink("ink")} />
        ))}
      </svg>
      <figcaption style={{ fontSize: 13 }}>
        Line: sensor. Dashes: what the plan expects since midnight. Dots: dipstick.
      </figcaption>
    </figure>
  );
}
