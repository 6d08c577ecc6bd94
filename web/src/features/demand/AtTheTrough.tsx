import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { Design, Herd, Near, Trace, Visit, Watering } from "../../api/types";
import { ink } from "../../app/theme";
import { PictureTable } from "../../shared/PictureTable";
import { usePreferences } from "../../shared/preferences";
import { StandingMark } from "../../shared/StandingMark";
import { figure, quantityText, type System } from "../../shared/units";
import { MobPicture } from "./MobPicture";
import { TwoSchools } from "./TwoSchools";

interface Props {
  herd: Herd;
  watering: Watering | undefined;
  waiting: boolean;
  document: Design;
}

/** Whether the trough keeps up with the herd: in numbers, and for a mob as a picture. */
export function AtTheTrough({ herd, watering, waiting, document }: Props) {
  const system = usePreferences((state) => state.system);
  const name = document.vessels?.find((one) => one.id === watering?.vessel)?.name ?? watering?.vessel ?? "";
  const visit = watering?.visits.find((one) => one.herd === herd.id);
  const near = watering?.near.find((one) => one.herd === herd.id);
  return (
    <Box
      sx={{ mt: 3, minHeight: herd.drinking?.pattern === "mob" ? 230 : 40 }}
      data-testid={`trough-${herd.id}`}
    >
      {waiting && !watering && <Typography color="text.secondary">Calculating the visit …</Typography>}
      {!waiting && !visit && !near && (
        <Typography color="text.secondary">
          {watering && watering.rim_m > 0 && herd.drinking?.pattern === "mob"
            ? `No animal finds room at ${name}.`
            : "They drink at no trough with a float valve, so nothing is judged."}
        </Typography>
      )}
      {watering && visit && (
        <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", md: "260px 1fr" }, gap: 4 }}>
          <MobWords watering={watering} visit={visit} name={name} system={system} />
          {watering.trace && watering.full_level_m !== null && (
            <Box sx={{ minWidth: 0 }}>
              <MobPicture trace={watering.trace} fullLevelM={watering.full_level_m} name={name} />
              <MobTable trace={watering.trace} system={system} />
            </Box>
          )}
        </Box>
      )}
      {watering && visit && <TwoSchools document={document} outlet={watering.outlet} />}
      {near && <NearWords near={near} watering={watering} name={name} system={system} />}
    </Box>
  );
}

/** The mob's picture as a table, at most a row for each of twenty steps. */
function MobTable({ trace, system }: { trace: Trace; system: System }) {
  const count = trace.times_min.length;
  const shown = [...new Set(Array.from({ length: 21 }, (_, step) => Math.round((step * (count - 1)) / 20)))];
  const at = (values: number[], index: number) => values[index] ?? 0;
  return (
    <PictureTable
      title="The visit"
      head={["After", "Level", "Drinking", "Waiting", "Comes in"]}
      rows={shown.map((index) => [
        quantityText({ value: at(trace.times_min, index), unit: "min", digits: 1 }, system),
        quantityText({ value: at(trace.levels_m, index), unit: "m" }, system),
        figure(at(trace.drinking, index), 0),
        figure(at(trace.waiting, index), 0),
        quantityText({ value: at(trace.inflow_lpm, index), unit: "L/min" }, system),
      ])}
    />
  );
}

interface WordsProps {
  watering: Watering;
  visit: Visit;
  name: string;
  system: System;
}

function MobWords({ watering, visit, name, system }: WordsProps) {
  const minutes = (value: number | null) =>
    value === null ? "not within 12 hours" : quantityText({ value, unit: "min" }, system);
  const litres = (value: number) => quantityText({ value, unit: "L" }, system);
  const rows: [string, string, boolean][] = [
    ["All watered after", minutes(visit.served_min), visit.served_min === null],
    ["Longest wait for room", minutes(visit.longest_wait_min), visit.left_waiting_share > 0.05],
    ["Left waiting", `${figure(100 * visit.left_waiting_share, 0)} %`, visit.left_waiting_share > 0.05],
    ["Room for", `${figure(visit.places, 0)} of ${figure(visit.heads, 0)}`, false],
    ["Each drinks", quantityText({ value: visit.draught_l, unit: "L", digits: 1 }, system), false],
    [
      "Lowest level",
      watering.lowest_l === null
        ? "–"
        : watering.runs_empty
          ? "empty"
          : `${litres(watering.lowest_l)} of ${litres(watering.holds_l ?? 0)}`,
      watering.runs_empty,
    ],
    ["Full again after", minutes(watering.recovered_min), watering.recovered_min === null],
    [
      "Share of a day's demand held",
      watering.day_share === null ? "–" : `${figure(100 * watering.day_share, 0)} %`,
      false,
    ],
    ...atItsLowest(watering, system),
  ];
  return (
    <Box
      component="dl"
      sx={{ m: 0, display: "grid", gridTemplateColumns: "1fr auto", rowGap: 0.5, fontSize: 13 }}
    >
      <Box component="dt" sx={{ fontWeight: 700 }}>
        All come to {name}
      </Box>
      <Box component="dd" sx={{ m: 0 }}>
        <StandingMark
          standing={watering.runs_empty || visit.left_waiting_share > 0.05 ? "fix" : "fine"}
          size={11}
        />
      </Box>
      {rows.map(([title, text, short]) => (
        <Box key={title} sx={{ display: "contents" }}>
          <Box component="dt" sx={{ color: ink("faint") }}>
            {title}
          </Box>
          <Box component="dd" sx={{ m: 0, textAlign: "right", color: ink(short ? "short" : "ink") }}>
            {short ? "■ " : ""}
            {text}
          </Box>
        </Box>
      ))}
    </Box>
  );
}

/** Water over the nipples and weight with the water in it, where either is known. */
function atItsLowest(watering: Watering, system: System): [string, string, boolean][] {
  const { over_nipples_m: over, weighs_kg: weighs } = watering;
  return [
    ...(over === null
      ? []
      : ([["Above the nipples then", quantityText({ value: over, unit: "m" }, system), over <= 0]] satisfies [
          string,
          string,
          boolean,
        ][])),
    ...(weighs === null
      ? []
      : ([["Weight at its lowest", quantityText({ value: weighs, unit: "kg" }, system), false]] satisfies [
          string,
          string,
          boolean,
        ][])),
  ];
}

interface NearProps {
  near: Near;
  watering: Watering | undefined;
  name: string;
  system: System;
}

function NearWords({ near, watering, name, system }: NearProps) {
  const flow = (value: number) => quantityText({ value, unit: "L/min" }, system);
  const litres = (value: number) => quantityText({ value, unit: "L" }, system);
  return (
    <Typography component="div" sx={{ fontSize: 13 }}>
      <StandingMark standing={near.runs_empty ? "fix" : near.taken_l > 0 ? "watch" : "fine"} size={11} /> In
      the busiest hours they draw {flow(near.peak_lpm)} from {name}, and {flow(near.inflow_lpm)} comes in
      {near.taken_l > 0
        ? `: in two hours they take ${litres(near.taken_l)} of the ${litres(near.holds_l)} it holds.`
        : ": it stays full."}
      {watering && watering.nipples > 0 && ` ${watering.nipples} nipples.`}
      {(watering ? atItsLowest(watering, system) : []).map(([title, text]) => ` ${title}: ${text}.`)}
    </Typography>
  );
}
