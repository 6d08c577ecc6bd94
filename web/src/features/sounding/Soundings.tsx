import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";
import { scaleLinear } from "d3-scale";
import { memo } from "react";

import type { Sounding } from "../../api/types";
import { ink } from "../../app/theme";
import { durationText } from "../../shared/duration";
import { usePreferences } from "../../shared/preferences";
import { figure, quantityText, shownUnit, toShown, type System } from "../../shared/units";
import type { ShownRoute } from "../../shared/route";
import { roundMetres, tickDigits } from "../../shared/ticks";
import { useSize } from "../../shared/useSize";

interface Props {
  routes: ShownRoute[];
  nameOf: (outlet: string) => string;
  onSelect: (outlet: string) => void;
  /** lowest and highest height [m] shown, where several stand side by side */
  range?: [number, number];
}

const TOP = 16;
const BOTTOM = 74;
const NARROW = 110;
const AXIS = 34;
const MOST_SHOWN = 10;
const LEAST_WIDTH = 38; // of one with its name [px]
const LETTER = 5.9;

interface Sounded {
  outlet: string;
  sounding: Sounding;
}

/** Where there are too many to be read side by side, those that keep least head over what they need. */
function tightest(all: Sounded[], room: number): Sounded[] {
  const most = Math.min(MOST_SHOWN, Math.max(1, Math.floor(room / LEAST_WIDTH)));
  if (all.length <= most) return all;
  const least = [...all].sort((a, b) => a.sounding.margin_m - b.sounding.margin_m).slice(0, most);
  return all.filter((one) => least.includes(one));
}

/** For each outlet a sounding line hung from the source's water: where the pressure goes at the wanted flow. */
export const Soundings = memo(function Soundings({ routes, nameOf, onSelect, range }: Props) {
  const system = usePreferences((state) => state.system);
  const [box, size] = useSize<HTMLDivElement>();
  const all = routes.flatMap((route) =>
    route.outlet && route.sounding ? [{ outlet: route.outlet, sounding: route.sounding }] : [],
  );
  const sounded = tightest(all, size.width - AXIS);
  const lasting = shortestLived(routes);
  const only = sounded.length === 1 ? sounded[0]?.sounding : undefined;
  const heights = sounded.flatMap(({ sounding: s }) => [
    s.surface_m,
    s.outlet_m,
    s.surface_m - s.pipe_loss_m - s.fitting_loss_m,
    s.outlet_m + s.valve_needs_m,
  ]);
  const [low, high] = range ?? [Math.min(...heights), Math.max(...heights)];
  const y = scaleLinear([low - (high - low) * 0.06, high], [size.height - BOTTOM, TOP]);
  const marks = roundMetres(low, high, 5, system);
  const column = (size.width - AXIS) / Math.max(1, sounded.length);

  return (
    <Box
      component="section"
      aria-label="Soundings"
      sx={{ display: "flex", flexDirection: "column", height: "100%" }}
    >
      <Typography variant="h2" sx={{ px: 3, pt: 2 }}>
        Sounding: where the pressure goes
        {only
          ? `, at ${only.wanted ? "the wanted" : "this"} ${quantityText({ value: only.flow_lpm, unit: "L/min" }, system)}`
          : sounded.every(({ sounding }) => sounding.wanted)
            ? ", at the wanted flow"
            : ", at the wanted flow or what runs"}
        {sounded.length < all.length && `: the ${sounded.length} tightest of ${all.length} outlets`}
      </Typography>
      {lasting?.run?.sustained && (
        <Typography variant="caption" sx={{ px: 3, color: ink("faint") }} data-testid="sustained">
          {sounded.length > 1 && `${nameOf(lasting.key)}: `}
          {quantityText({ value: lasting.flow_lpm, unit: "L/min" }, system)} for{" "}
          {durationText(60 * lasting.run.sustained.lasts_min)}, then at most{" "}
          {quantityText({ value: lasting.run.sustained.then_lpm, unit: "L/min" }, system)}
        </Typography>
      )}
      <Box ref={box} sx={{ flex: 1, minHeight: 150 }}>
        {sounded.length ? (
          size.width > 0 && (
            <svg
              width={size.width}
              height={size.height}
              style={{ display: "block" }}
              role="img"
              aria-label={sounded
                .map(({ outlet, sounding }) => inWords(nameOf(outlet), sounding, system))
                .join(" ")}
            >
              {marks.map((tick) => (
                <g key={tick}>
                  <line
                    x1={AXIS}
                    x2={size.width - 8}
                    y1={y(tick)}
                    y2={y(tick)}
                    stroke={ink("rule")}
                    strokeOpacity={0.6}
                  />
                  <text x={AXIS - 6} y={y(tick) + 4} fontSize={11} textAnchor="end" fill={ink("faint")}>
                    {figure(toShown(tick, "m", system), tickDigits(marks, system))}
                  </text>
                </g>
              ))}
              <text x={4} y={11} fontSize={11} fill={ink("faint")}>
                {shownUnit("m", system)}
              </text>
              <Key y={size.height - 10} width={size.width} />
              {sounded.map(({ outlet, sounding }, index) => (
                <Hung
                  key={outlet}
                  sounding={sounding}
                  name={nameOf(outlet)}
                  beside={besides(sounded, index, nameOf)}
                  x={AXIS + column * index}
                  width={column}
                  y={y}
                  height={size.height}
                  onSelect={() => onSelect(outlet)}
                />
              ))}
            </svg>
          )
        ) : (
          <Typography sx={{ p: 3 }} color="text.secondary">
            No outlet has a way to water yet.
          </Typography>
        )}
      </Box>
    </Box>
  );
});

const TOLD_UP_TO_MIN = 7 * 24 * 60;

/** The route whose flow is the first that the store no longer bears; none where all last for days. */
function shortestLived(routes: ShownRoute[]): ShownRoute | undefined {
  const minutes = (route: ShownRoute) => route.run?.sustained?.lasts_min ?? Infinity;
  const [first] = [...routes].sort((a, b) => minutes(a) - minutes(b) || b.flow_lpm - a.flow_lpm);
  return first && minutes(first) < TOLD_UP_TO_MIN ? first : undefined;
}

/** What the colours and the mark mean. */
function Key({ y, width }: { y: number; width: number }) {
  const parts = [
    { text: "pipe", fill: "pipe" as const, wide: 46 },
    { text: "fittings", fill: "fitting" as const, wide: 64 },
    { text: "spare", fill: "enough" as const, wide: 54 },
  ];
  let x = Math.max(4, (width - 296) / 2);
  return (
    <g fontSize={11} fill={ink("faint")} aria-hidden>
      {parts.map((part) => {
        const at = x;
        x += part.wide;
        return (
          <g key={part.text} transform={`translate(${at},${y})`}>
            <rect width={9} height={9} y={-9} fill={ink(part.fill)} />
            <text x={13}>{part.text}</text>
          </g>
        );
      })}
      <g transform={`translate(${x},${y})`}>
        <line x2={18} y1={-4} y2={-4} stroke={ink("ink")} strokeWidth={2.4} />
        <text x={22}>needed at the valve</text>
      </g>
    </g>
  );
}

interface HungProps {
  sounding: Sounding;
  name: string;
  /** what stands beside each line of its name */
  beside: string[][];
  x: number;
  width: number;
  y: (heightM: number) => number;
  height: number;
  onSelect: () => void;
}

function Hung({ sounding: s, name, beside, x, width, y, height, onSelect }: HungProps) {
  const system = usePreferences((state) => state.system);
  const bar = Math.min(30, width * 0.34);
  const narrow = width < NARROW;
  const left = narrow ? x + (width - bar) / 2 : x + Math.max(14, width * 0.12);
  const middle = left + bar / 2;
  const afterPipe = s.surface_m - s.pipe_loss_m;
  const afterAll = afterPipe - s.fitting_loss_m;
  const needed = s.outlet_m + s.valve_needs_m;
  const drawsAir = s.draws_air;
  const short = s.spare === "short";
  const head = (metres: number) => quantityText({ value: metres, unit: "m" }, system);
  const notes = spread([
    {
      y: (y(s.surface_m) + y(afterPipe)) / 2,
      text: `pipe takes ${head(s.pipe_loss_m)}`,
      tone: "ink" as const,
      bold: false,
    },
    {
      y: (y(afterPipe) + y(afterAll)) / 2,
      text: `fittings ${head(s.fitting_loss_m)}`,
      tone: "ink" as const,
      bold: false,
    },
    { y: y(needed), text: `its valve needs ${head(s.valve_needs_m)}`, tone: "ink" as const, bold: true },
    {
      y: (y(Math.max(afterAll, s.outlet_m)) + y(s.outlet_m)) / 2,
      text: `spare ${head(s.left_m)}`,
      tone: short ? ("short" as const) : ("enough" as const),
      bold: false,
    },
  ]);
  return (
    <g onClick={onSelect} style={{ cursor: "pointer" }}>
      <rect x={x} width={width} y={0} height={height} fill="transparent" />
      <rect
        x={left}
        width={bar}
        y={y(s.surface_m)}
        height={Math.max(0, y(afterPipe) - y(s.surface_m))}
        fill={ink("pipe")}
      />
      <rect
        x={left}
        width={bar}
        y={y(afterPipe)}
        height={Math.max(0, y(afterAll) - y(afterPipe))}
        fill={ink("fitting")}
      />
      {s.left_m > 0 ? (
        <rect
          x={left}
          width={bar}
          y={y(afterAll)}
          height={Math.max(0, y(s.outlet_m) - y(afterAll))}
          fill={ink(short ? "short" : "enough")}
        />
      ) : (
        <rect
          x={left}
          width={bar}
          y={y(s.outlet_m)}
          height={Math.max(0, y(afterAll) - y(s.outlet_m))}
          fill="none"
          stroke={ink("short")}
          strokeWidth={2}
        />
      )}
      <path
        d={`M${left + bar / 2} ${y(s.surface_m) - 8}V${y(s.surface_m)}`}
        stroke={ink("ink")}
        strokeWidth={1.5}
      />
      <line
        x1={left - 7}
        x2={left + bar + 7}
        y1={y(needed)}
        y2={y(needed)}
        stroke={ink("ink")}
        strokeWidth={2.4}
      />
      {width > 150 &&
        notes.map((note) => (
          <text
            key={note.text}
            x={left + bar + 12}
            y={note.y + 4}
            fontSize={12}
            fontWeight={note.bold ? 600 : 400}
            stroke={ink("paper")}
            strokeWidth={3}
            paintOrder="stroke"
            fill={ink(note.tone)}
          >
            {note.text}
          </text>
        ))}
      {(narrow ? inTwo(name) : [name]).map((part, index) => (
        <text
          key={index}
          x={middle}
          y={height - BOTTOM + 20 + index * 13}
          textAnchor={narrow ? "middle" : "start"}
          fontSize={narrow ? 11 : 12}
          fontWeight={700}
          fill={ink("ink")}
        >
          {narrow ? cut(part, width, beside[index] ?? []) : part}
        </text>
      ))}
      <text
        x={middle}
        y={height - BOTTOM + (narrow ? 46 : 34)}
        textAnchor={narrow ? "middle" : "start"}
        fontSize={12}
        fill={ink(short ? "short" : "enough")}
        data-testid="margin"
      >
        {!s.wanted && !drawsAir
          ? narrow
            ? "● runs"
            : "● runs; no target"
          : narrow
            ? `${short ? "■" : "●"} ${drawsAir && s.margin_m >= 0 ? "suction" : signed(s.margin_m, system)}`
            : short && !drawsAir
              ? `■ ${head(-s.margin_m)} short`
              : drawsAir
                ? "■ draws air in"
                : `● ${head(s.margin_m)} to spare`}
      </text>
    </g>
  );
}

const LEAST_GAP = 15;

/** As much of a name as has room beside its neighbours, which keep what is theirs. */
function cut(text: string, column: number, neighbours: string[]): string {
  const longest = Math.min(column, Math.max(0, ...neighbours.map((one) => one.length)) * LETTER);
  const letters = Math.max(2, Math.floor((2 * column - longest) / LETTER));
  return text.length > letters ? `${text.slice(0, letters - 1)}…` : text;
}

/** What stands on either side of the lines of a name. */
const besides = (all: Sounded[], index: number, nameOf: (outlet: string) => string): string[][] => {
  const names = [all[index - 1], all[index + 1]].flatMap((one) => (one ? [inTwo(nameOf(one.outlet))] : []));
  return [0, 1].map((line) => names.flatMap((parts) => parts[line] ?? []));
};

/** A name on two lines, parted at the space nearest its middle. */
function inTwo(name: string): string[] {
  const spaces = [...name.matchAll(/ /g)].map((match) => match.index);
  const nearest = spaces.sort((a, b) => Math.abs(a - name.length / 2) - Math.abs(b - name.length / 2))[0];
  return nearest === undefined ? [name] : [name.slice(0, nearest), name.slice(nearest + 1)];
}

/** A margin in the least of room: with no decimals where it has two digits before them. */
function signed(metres: number, system: System): string {
  const shown = toShown(metres, "m", system);
  return `${metres < 0 ? "" : "+"}${figure(shown, Math.abs(shown) < 9.95 ? 1 : 0)}`;
}

/** Push labels apart so that none covers another. */
function spread<T extends { y: number }>(notes: T[]): T[] {
  const sorted = [...notes].sort((a, b) => a.y - b.y);
  sorted.forEach((note, index) => {
    const above = sorted[index - 1];
    if (above && note.y < above.y + LEAST_GAP) note.y = above.y + LEAST_GAP;
  });
  return sorted;
}

function inWords(name: string, s: Sounding, system: System): string {
  const head = (metres: number) => quantityText({ value: metres, unit: "m" }, system);
  return `${name}: of ${head(s.surface_m - s.outlet_m)} of fall, pipe takes ${head(s.pipe_loss_m)}, fittings ${head(s.fitting_loss_m)}; spare ${head(s.left_m)}, needed at the valve ${head(s.valve_needs_m)}.`;
}
