import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Design, FloatValveOutlet, Requirement } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { Choice } from "../../shared/Choice";
import { faultAt } from "../../shared/faults";
import { QuantityField } from "../../shared/QuantityField";
import { lazyPart } from "../../shared/lazyPart";
import { InCase } from "./InCase";
import { OutletTold } from "./Told";
import { Assumed, noLongerAssumed } from "./Assumed";
import { PlaceFields } from "./PlaceFields";
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
  return (
    <Box sx={PAIR}>
      <Box sx={{ gridColumn: "1 / -1" }}>
        <OutletTold id={outlet.id} analysis={analysis} wanted={wanted?.flow_lpm ?? null} />
      </Box>
      <Box sx={{ gridColumn: "1 / -1" }}>
        <InCase document={document} id={outlet.id} edit={edit} onDone={onDone} />
      </Box>
      <Assumed part={outlet} kind="outlets" edit={edit} onDone={onDone} />
      <PlaceFields {...{ document, edit, onDone }} placeId={outlet.place} />
      {wish("Flow wanted", "flow_lpm", "L/min")}
      {wish("Refill within", "refill_min", "min")}
      {valveField("Valve passes (Kv)", "kv_m3h", "m³/h")}
      <QuantityField
        label="Valve above ground"
        family="m"
        digits={2}
        value={outlet.height_m ?? 0}
        fault={faultAt(faults, `${path}/height_m`)}
        onDone={onDone}
        onChange={(value) =>
          edit(`${outlet.id}.height`, (draft) => {
            const own = draft.outlets?.[index];
            if (!own) return;
            own.height_m = value;
            noLongerAssumed(own, "height_m");
          })
        }
      />
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
          edit(`${outlet.id}.shut`, (draft) => {
            const own = draft.outlets?.[index];
            if (own) own.shut = value === "shut";
          });
          onDone();
        }}
      />
      <Box sx={{ gridColumn: "1 / -1" }}>
        <Typography variant="caption" color="text.secondary">
          Kv is the flow that the open valve passes at 1 bar: it stands on the valve&apos;s sheet, or time a
          pail at a known pressure.
        </Typography>
        <Caution>
          A line connected to a drinking-water supply needs an air gap or backflow preventer under the local
          plumbing code.
        </Caution>
      </Box>
    </Box>
  );
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
