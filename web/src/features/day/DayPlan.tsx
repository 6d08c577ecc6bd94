import Box from "@mui/material/Box";

import type { DayRun, Design } from "../../api/types";
import { ink } from "../../app/theme";
import { fitScale } from "../../shared/fit";
import { placeOfPart } from "../../shared/ground";
import { named } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { quantityText } from "../../shared/units";
import { useSize } from "../../shared/useSize";
import { pathOf, wayOf, type Spot } from "../../shared/way";
import { clockText, valueAt } from "./model";

interface Props {
  document: Design;
  run: DayRun;
  atS: number;
}

const STILL_LPM = 0.05;
const [WIDE, HIGH] = [26, 16];
const MOST_NAMED = 24;
const EMPTY = 0.02; // of what it holds

/** How many animals drink at a vessel at most. */
const headsAt = (document: Design, vesselId: string): number =>
  (document.herds ?? []).reduce((heads, herd) => {
    const outlet = document.outlets?.find((one) => one.id === herd.outlet);
    return outlet?.fills === vesselId ? heads + herd.head : heads;
  }, 0);

/** The plan at a time of a run: which lines run and how much, how full each vessel is, and where animals drink. */
export function DayPlan({ document, run, atS }: Props) {
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const scale = fitScale(
    document.places.map((place) => [place.east_m, place.north_m] as const),
    size,
    { left: 20, right: 84, top: 30, bottom: 22 },
  );
  const flow = (id: string) => Math.abs(valueAt(run.times_s, run.flows_lpm[id] ?? [], atS));
  const most = Math.max(
    1,
    ...(document.lines ?? []).flatMap((line) => (run.flows_lpm[line.id] ?? []).map(Math.abs)),
  );
  const drinks = new Map<string, number>();
  for (const herd of document.herds ?? []) {
    const lpm = valueAt(run.times_s, run.beside_lpm[herd.id] ?? [], atS);
    const outlet = document.outlets?.find((one) => one.id === herd.outlet);
    if (lpm > STILL_LPM && outlet?.fills)
      drinks.set(outlet.fills, (drinks.get(outlet.fills) ?? 0) + herd.head);
  }
  const shown = ([x = 0, y = 0]: readonly number[]): Spot => [scale.x(x), scale.y(y)];
  const vessels = document.vessels ?? [];
  const sources = document.pressure_sources ?? [];
  const spots = [...vessels, ...sources].flatMap((vessel) => {
    const place = placeOfPart(document, vessel.id);
    const heads = headsAt(document, vessel.id);
    const text = heads ? `${named(vessel)} · ${heads} drink` : named(vessel);
    return place ? [{ id: vessel.id, text, at: shown([place.east_m, place.north_m]) }] : [];
  });
  const labels = vessels.length <= MOST_NAMED ? labelSpots(spots) : new Map<string, Label>();
  return (
    <Box
      ref={box}
      sx={{ height: "100%", bgcolor: ink("land"), border: `1px solid ${ink("rule")}`, minWidth: 0 }}
    >
      {size.width > 0 && (
        <svg
          width={size.width}
          height={size.height}
          style={{ display: "block" }}
          role="img"
          aria-label={`The plan at ${clockText(atS)}: ${vessels
            .map((vessel) => `${named(vessel)} ${levelText(run, vessel.id, atS, system)}`)
            .join(", ")}`}
          data-testid="day-plan"
        >
          <text x={10} y={17} fontSize={12} fill={ink("ink")}>
            Plan at {clockText(atS)}
          </text>
          {(document.lines ?? []).map((line) => {
            const lpm = flow(line.id);
            return (
              <path
                key={line.id}
                d={pathOf(wayOf(document, line).map(shown))}
                fill="none"
                stroke={ink(lpm > STILL_LPM ? "deep" : "groundEdge")}
                strokeWidth={lpm > STILL_LPM ? 1.5 + (4 * lpm) / most : 1}
                strokeDasharray={lpm > STILL_LPM ? undefined : "3 3"}
                data-runs={lpm > STILL_LPM}
              >
                <title>{`${named(line)}: ${quantityText({ value: lpm, unit: "L/min" }, system)}`}</title>
              </path>
            );
          })}
          {sources.map((source) => {
            const place = placeOfPart(document, source.id);
            if (!place) return null;
            const [x, y] = shown([place.east_m, place.north_m]);
            const gives = valueAt(run.times_s, run.beside_lpm[source.id] ?? [], atS);
            const label = labels.get(source.id);
            return (
              <g key={source.id}>
                <path
                  d={`M${x} ${y - HIGH / 2}l${HIGH / 2} ${HIGH / 2}l${-HIGH / 2} ${HIGH / 2}l${-HIGH / 2} ${-HIGH / 2}Z`}
                  fill={ink(gives > STILL_LPM ? "water" : "paper")}
                  stroke={ink("ink")}
                  strokeWidth={1.8}
                >
                  <title>{`${named(source)}: ${quantityText({ value: gives, unit: "L/min" }, system)}`}</title>
                </path>
                {label && <MapName label={label} x={x} y={y} text={named(source)} />}
              </g>
            );
          })}
          {vessels.map((vessel) => {
            const place = placeOfPart(document, vessel.id);
            if (!place) return null;
            const [x, y] = shown([place.east_m, place.north_m]);
            const levels = run.levels_m[vessel.id] ?? [];
            const full = Math.max(0.01, vessel.overflow_m ?? 0, ...levels);
            const share = Math.min(Math.max(valueAt(run.times_s, levels, atS) / full, 0), 1);
            const waits = drinks.get(vessel.id);
            const label = labels.get(vessel.id);
            return (
              <g key={vessel.id}>
                <rect
                  x={x - WIDE / 2}
                  y={y - HIGH / 2}
                  width={WIDE}
                  height={HIGH}
                  rx={2}
                  fill={ink("paper")}
                  stroke={ink(share < EMPTY ? "short" : "ink")}
                  strokeWidth={1.8}
                />
                <rect
                  x={x - WIDE / 2 + 2}
                  y={y + HIGH / 2 - 2 - (HIGH - 4) * share}
                  width={WIDE - 4}
                  height={(HIGH - 4) * share}
                  fill={ink("water")}
                />
                {label && (
                  <MapName
                    label={label}
                    x={x}
                    y={y}
                    text={`${named(vessel)}${waits ? ` · ${waits} ${share < EMPTY ? "wait" : "drink"}` : ""}`}
                  />
                )}
              </g>
            );
          })}
        </svg>
      )}
    </Box>
  );
}

/** What a mark of the plan is called, beside it. */
function MapName({ label, x, y, text }: { label: Label; x: number; y: number; text: string }) {
  return (
    <text
      x={x + label.dx}
      y={y + label.dy}
      textAnchor={label.anchor}
      fontSize={11.5}
      fill={ink("ink")}
      stroke={ink("land")}
      strokeWidth={3}
      paintOrder="stroke"
    >
      {text}
    </text>
  );
}

interface Label {
  dx: number;
  dy: number;
  anchor: "start" | "middle" | "end";
}

const LETTER_PX = 6.4;
const LABEL_PX = 12;

/** Where each name stands beside its vessel: the first side on which it covers nothing; none where all are taken. */
function labelSpots(spots: { id: string; text: string; at: Spot }[]): Map<string, Label> {
  const boxed = (x: number, y: number, wide: number, high: number) => [x, y, x + wide, y + high] as const;
  const taken = spots.map(({ at: [x, y] }) => boxed(x - WIDE / 2, y - HIGH / 2, WIDE, HIGH));
  const labels = new Map<string, Label>();
  for (const { id, text, at } of spots) {
    const [x, y] = at;
    const wide = text.length * LETTER_PX;
    const sides: Label[] = [
      { dx: WIDE / 2 + 4, dy: 4, anchor: "start" },
      { dx: -WIDE / 2 - 4, dy: 4, anchor: "end" },
      { dx: 0, dy: HIGH / 2 + LABEL_PX, anchor: "middle" },
      { dx: 0, dy: -HIGH / 2 - 4, anchor: "middle" },
    ];
    for (const side of sides) {
      const left = x + side.dx - (side.anchor === "end" ? wide : side.anchor === "middle" ? wide / 2 : 0);
      const own = boxed(left, y + side.dy - LABEL_PX + 2, wide, LABEL_PX);
      if (left < 2 || taken.some((other) => cover(own, other))) continue;
      taken.push(own);
      labels.set(id, side);
      break;
    }
  }
  return labels;
}

type Box4 = readonly [number, number, number, number];
const cover = (a: Box4, b: Box4) => a[0] < b[2] && b[0] < a[2] && a[1] < b[3] && b[1] < a[3];

const levelText = (run: DayRun, id: string, atS: number, system: "metric" | "us" | "imperial") =>
  quantityText({ value: valueAt(run.times_s, run.levels_m[id] ?? [], atS), unit: "m" }, system);
