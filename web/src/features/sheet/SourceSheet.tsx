import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { PressureSource } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { Choice } from "../../shared/Choice";
import { faultAt } from "../../shared/faults";
import { named } from "../../shared/names";
import { PartNameField } from "../../shared/PartNameField";
import { PictureTable } from "../../shared/PictureTable";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { Said } from "../../shared/Said";
import { standing } from "../../shared/standing";
import { quantityText, type Family } from "../../shared/units";
import { Assumed, noLongerAssumed } from "./Assumed";
import { PAIR, type SheetProps } from "./edit";
import { GroundField, Position } from "./PlaceFields";
import { RamTrials } from "./RamTrials";
import { Timings } from "../../shared/Timings";

interface Figure {
  key: string;
  label: string;
  family: Family;
  digits?: number;
  empty?: string;
  times?: number;
}

const GAUGED: Figure[] = [
  { key: "static_kpa", label: "Gauge, nothing running", family: "kPa" },
  { key: "timed_kpa", label: "Gauge while timed", family: "kPa", empty: "0: wide open" },
];
const SWITCHES: Figure[] = [
  { key: "cut_in_kpa", label: "Pump cuts in at", family: "kPa", empty: "no switch" },
  { key: "cut_out_kpa", label: "Pump cuts out at", family: "kPa", empty: "no switch" },
];
const RAM: Figure[] = [
  { key: "fall_m", label: "Fall to the ram", family: "m" },
  { key: "drive_lpm", label: "Drive flow", family: "L/min", empty: "the last trial says it" },
  { key: "efficiency", label: "Efficiency, %", family: "count", times: 100 },
  { key: "drive_length_m", label: "Drive pipe, length", family: "m", empty: "unknown" },
  { key: "drive_mm", label: "Drive pipe, bore", family: "mm", empty: "unknown" },
];
const TITLE = { mains: "Mains", well: "Well with a pressure tank", ram: "Ram pump" } as const;
const CAUTION = {
  mains:
    "A line on mains needs an air gap or a backflow preventer under the local plumbing code; often a licensed plumber must fit it.",
  well: "A pressure tank and its switch are electrical and under pressure: have them set by somebody licensed. No drinking water for people without a test.",
  ram: "A ram beats for good and must never be shut in: keep hands out of its waste valve, and let its last outlet overflow to a safe place.",
} as const;

/** A source under pressure: what a gauge and a pail say of it, and what it gives in the plan. */
export function SourceSheet(props: SheetProps & { index: number }) {
  const { document, analysis, faults, edit, onDone, index } = props;
  const source = document.pressure_sources?.[index];
  if (!source) return null;
  const path = `/pressure_sources/${index}`;
  const change = (key: string, recipe: (draft: PressureSource) => void) =>
    edit(`${source.id}.${key}`, (draft) => {
      const own = draft.pressure_sources?.[index];
      if (!own) return;
      recipe(own);
      noLongerAssumed(own, key);
    });
  const figures = source.kind === "ram" ? RAM : [...GAUGED, ...(source.kind === "well" ? SWITCHES : [])];
  const known = source as unknown as Record<string, number | null | undefined>;
  const set = (key: string, value: number | null) =>
    change(key, (draft) => {
      const figures = draft as unknown as Record<string, unknown>;
      figures[key] = value ?? (key === "timed_kpa" ? 0 : null);
      if (key.startsWith("cut_")) {
        const other = key === "cut_in_kpa" ? "cut_out_kpa" : "cut_in_kpa";
        if (value === null) figures[other] = null;
        else if (draft.kind !== "ram") figures[other] ??= draft.static_kpa;
      }
    });
  return (
    <>
      <Typography color="text.secondary" sx={{ mb: 1 }}>
        {TITLE[source.kind]}
      </Typography>
      <Assumed part={source} kind="pressure_sources" edit={edit} onDone={onDone} />
      {faultAt(faults, path) && (
        <Typography color="error" role="alert">
          {faultAt(faults, path)}
        </Typography>
      )}
      <Box sx={PAIR}>
        <Box sx={{ gridColumn: "1 / -1" }}>
          <PartNameField
            value={named(source)}
            onDone={onDone}
            onChange={(name) => change("name", (draft) => void (draft.name = name))}
          />
        </Box>
        {figures.map(({ key, label, family, digits, empty, times = 1 }) => (
          <QuantityField
            key={key}
            label={label}
            family={family}
            {...(digits === undefined ? {} : { digits })}
            value={known[key] == null ? null : known[key] * times}
            hint={known[key] == null ? empty : undefined}
            fault={faultAt(faults, `${path}/${key}`)}
            onDone={onDone}
            onChange={(value) => set(key, value / times)}
            {...(empty ? { onClear: () => set(key, null) } : {})}
          />
        ))}
        <GroundField {...{ document, onDone }} placeId={source.place} />
        {source.kind === "mains" && (
          <Choice
            label="Against backflow"
            value={source.backflow ?? "none"}
            options={[
              { value: "none", text: "nothing" },
              { value: "air_gap", text: "an air gap" },
              { value: "preventer", text: "a backflow preventer" },
            ]}
            onChange={(value) => {
              change("backflow", (draft) => {
                if (draft.kind !== "ram") draft.backflow = value as "none" | "air_gap" | "preventer";
              });
              onDone();
            }}
          />
        )}
      </Box>
      {source.kind === "ram" ? (
        <RamTrials {...{ source, path, faults, change, onDone }} />
      ) : (
        <Timings
          timings={source.timings}
          path={`${path}/timings`}
          faults={faults}
          least={1}
          onDone={onDone}
          change={(recipe) =>
            change("timings", (draft) => {
              if (draft.kind !== "ram") recipe(draft.timings);
            })
          }
        />
      )}
      <Given document={document} analysis={analysis} id={source.id} />
      <Position {...{ document, onDone }} placeId={source.place} />
      <Caution>{CAUTION[source.kind]}</Caution>
    </>
  );
}

/** What a source gives in the plan: its climb, what drains back, and its curve as a table. */
export function Given({
  document,
  analysis,
  id,
}: Pick<SheetProps, "document" | "analysis"> & { id: string }) {
  const system = usePreferences((state) => state.system);
  const report = analysis?.supply.pressure_sources.find((one) => one.id === id);
  if (!report) return null;
  const text = (value: number, unit: Parameters<typeof quantityText>[0]["unit"]) =>
    quantityText({ value, unit }, system);
  const nameOf = (part: string) => named(standing(document).find((one) => one.id === part) ?? { id: part });
  return (
    <Box data-testid={`source-${id}`} sx={{ my: 2 }}>
      <Typography>
        <strong>{text(report.given_lpm, "L/min")}</strong> with all running.{" "}
        <Said words={report.told_words} />
      </Typography>
      {report.climbs.map((climb) => (
        <Typography key={climb.outlet} variant="body2" data-testid={`climb-${climb.outlet}`}>
          Up to {nameOf(climb.outlet)}: {text(climb.lift_m, "m")} over it,{" "}
          {climb.climb_min === null
            ? "no water comes up there alone."
            : `${text(climb.holds_l, "L")} in the empty line, up in ${text(climb.climb_min, "min")} at most.`}
        </Typography>
      ))}
      {report.drain_backs.map((back) => (
        <Typography key={back.filled} variant="body2" data-testid={`drains-${back.filled}`}>
          Each time {nameOf(back.outlet)} is emptied {text(back.lost_l, "L")} run back from{" "}
          {nameOf(back.filled)}
          {back.again_min !== null && `; it runs again after ${text(back.again_min, "min")}`}. A check valve
          after the tee holds them.
        </Typography>
      ))}
      {report.ram?.lengths_m && (
        <Typography variant="body2">
          A drive pipe of this bore is {text(report.ram.lengths_m[0], "m")} to{" "}
          {text(report.ram.lengths_m[1], "m")} long: 150 to 1,000 times its bore (Watt 1975, from memory).
        </Typography>
      )}
      <PictureTable
        title="Flow and pressure at the source"
        head={["Flow", "Pressure"]}
        rows={report.curve
          .filter((_, number) => number % 6 === 0)
          .map(([flow, kpa]) => [text(flow, "L/min"), text(kpa, "kPa")])}
      />
    </Box>
  );
}
