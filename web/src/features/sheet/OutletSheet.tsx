import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Design, Fault, FloatValveOutlet, Outlet, Requirement } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { Choice } from "../../shared/Choice";
import { faultAt } from "../../shared/faults";
import { Folded } from "../../shared/Folded";
import { named } from "../../shared/names";
import { PartNameField } from "../../shared/PartNameField";
import type { Family } from "../../shared/units";
import { QuantityField } from "../../shared/QuantityField";
import { lazyPart } from "../../shared/lazyPart";
import { InCase } from "./InCase";
import { OutletTold } from "./Told";
import { Assumed, noLongerAssumed } from "./Assumed";
import { GroundField, Position } from "./PlaceFields";
import { PAIR, type SheetProps } from "./edit";

const ValveChoices = lazyPart(async () => (await import("../choose")).ValveChoices);

/** An outlet's figures: its valve, and what is wanted of it. */
export function OutletSheet({
  document,
  analysis,
  catalogue,
  faults,
  edit,
  onDone,
  onTry,
  index,
}: SheetProps & { index: number }) {
  const [comparing, setComparing] = useState(false);
  const outlet = document.outlets?.[index];
  if (!outlet) return null;
  const path = `/outlets/${index}`;
  const wanted = document.requirements?.find((one) => one.outlet === outlet.id);
  const valveField = (
    label: string,
    key: Exclude<keyof FloatValveOutlet["valve"], "steps" | "product">,
    family: "m" | "kPa" | "m³/h",
    digits?: number,
    hint?: string,
  ) =>
    outlet.kind === "float_valve" ? (
      <QuantityField
        label={label}
        family={family}
        {...(digits === undefined ? {} : { digits })}
        value={outlet.valve[key] ?? null}
        hint={outlet.valve[key] == null ? hint : undefined}
        fault={faultAt(faults, `${path}/valve/${key}`)}
        onDone={onDone}
        onChange={(value) =>
          edit(`${outlet.id}.${key}`, (draft) => {
            const own = draft.outlets?.[index];
            if (own?.kind !== "float_valve") return;
            own.valve[key] = value;
            noLongerAssumed(own, key);
          })
        }
      />
    ) : null;
  const wish = (label: string, key: "flow_lpm" | "refill_min", family: "L/min" | "min") => (
    <QuantityField
      label={label}
      family={family}
      value={wanted?.[key] ?? null}
      onClear={() =>
        edit(`${outlet.id}.${key}`, (draft) => void (requirementOf(draft, outlet.id)[key] = null))
      }
      hint={wanted?.[key] ? undefined : "no target: not judged"}
      onDone={onDone}
      onChange={(value) =>
        edit(`${outlet.id}.${key}`, (draft) => void (requirementOf(draft, outlet.id)[key] = value))
      }
    />
  );
  const set = (key: string, recipe: (own: Outlet) => void) =>
    edit(`${outlet.id}.${key}`, (draft) => {
      const own = draft.outlets?.[index];
      if (!own) return;
      recipe(own);
      noLongerAssumed(own, key);
    });
  return (
    <>
      <OutletTold id={outlet.id} analysis={analysis} wanted={wanted?.flow_lpm ?? null} />
      <Assumed part={outlet} kind="outlets" edit={edit} onDone={onDone} />
      <Box sx={PAIR}>
        <Box sx={{ gridColumn: "1 / -1" }}>
          <PartNameField
            value={named(outlet)}
            onDone={onDone}
            onChange={(name) => set("name", (own) => void (own.name = name))}
          />
        </Box>
        {valveField("Valve passes (Kv)", "kv_m3h", "m³/h")}
        <OtherOutletFields {...{ outlet, faults, path, set, onDone }} />
        {wish("Flow wanted", "flow_lpm", "L/min")}
        {outlet.fills != null && wish("Refill within", "refill_min", "min")}
        <GroundField {...{ document, onDone }} placeId={outlet.place} />
        <QuantityField
          label="Valve above ground"
          family="m"
          digits={2}
          value={outlet.height_m ?? 0}
          fault={faultAt(faults, `${path}/height_m`)}
          onDone={onDone}
          onChange={(value) => set("height_m", (own) => void (own.height_m = value))}
        />
        {outlet.kind === "float_valve" && (
          <Box sx={{ gridColumn: "1 / -1" }}>
            <Button variant="outlined" onClick={() => setComparing(true)}>
              Compare valves …
            </Button>
            {comparing && (
              <ValveChoices {...{ document, index, catalogue, onTry }} onLeave={() => setComparing(false)} />
            )}
          </Box>
        )}
        <Choice
          label="Stopcock"
          value={outlet.shut ? "shut" : "open"}
          options={[
            { value: "open", text: "open" },
            { value: "shut", text: "shut by hand" },
          ]}
          onChange={(value) => {
            set("shut", (own) => void (own.shut = value === "shut"));
            onDone();
          }}
        />
        <InCase document={document} id={outlet.id} edit={edit} onDone={onDone} />
      </Box>
      {outlet.kind === "float_valve" && (
        <Folded title="Float and pressures" open>
          <Box sx={PAIR}>
            {valveField("Closes at level", "closes_at_m", "m", 2)}
            {valveField("Float band", "band_m", "m", 3)}
            {valveField("Least pressure", "min_pressure_kpa", "kPa")}
            {valveField("Pressure to open for certain", "sure_pressure_kpa", "kPa")}
            {valveField(
              "Greatest shut-off pressure",
              "max_pressure_kpa",
              "kPa",
              undefined,
              "unknown: whether it shuts is not judged",
            )}
          </Box>
          <Typography variant="caption" color="text.secondary">
            Kv is the flow that the open valve passes at 1 bar: it stands on the valve&apos;s sheet, or time a
            pail at a known pressure.
          </Typography>
        </Folded>
      )}
      <Position {...{ document, onDone }} placeId={outlet.place} />
      <Caution>
        A line connected to a drinking-water supply needs an air gap or backflow preventer under the local
        plumbing code.
      </Caution>
    </>
  );
}

interface OtherProps {
  outlet: Outlet;
  faults: Fault[];
  path: string;
  set: (key: string, recipe: (own: Outlet) => void) => void;
  onDone: () => void;
}

/** What an open end, a fixed flow or a drip outlet gives. */
function OtherOutletFields({ outlet, faults, path, set, onDone }: OtherProps) {
  const field = (
    label: string,
    key: "bore_mm" | "flow_lpm" | "pressure_kpa" | "min_pressure_kpa" | "exponent",
    family: Family,
    digits?: number,
  ) => (
    <QuantityField
      label={label}
      family={family}
      {...(digits === undefined ? {} : { digits })}
      value={(outlet as unknown as Record<string, number | null | undefined>)[key] ?? null}
      fault={faultAt(faults, `${path}/${key}`)}
      onDone={onDone}
      onChange={(value) => set(key, (own) => void Object.assign(own, { [key]: value }))}
    />
  );
  switch (outlet.kind) {
    case "open_end":
      return field("Bore of the end", "bore_mm", "mm", 1);
    case "fixed":
      return (
        <>
          {field("Flow taken", "flow_lpm", "L/min")}
          {field("Pressure needed", "min_pressure_kpa", "kPa")}
        </>
      );
    case "emitter":
      return (
        <>
          {field("Flow when rated", "flow_lpm", "L/min", 2)}
          {field("Rated pressure", "pressure_kpa", "kPa")}
          {field("Exponent", "exponent", "count", 2)}
        </>
      );
    default:
      return null;
  }
}

/** What is wanted of an outlet; made where nothing is yet. */
export function requirementOf(draft: Design, outlet: string): Requirement {
  draft.requirements ??= [];
  let found = draft.requirements.find((one) => one.outlet === outlet);
  if (!found) {
    draft.requirements.push({ outlet });
    found = draft.requirements.at(-1);
  }
  return found as Requirement;
}
