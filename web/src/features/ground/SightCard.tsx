import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import type { ReactNode } from "react";

import type { Design, Fault, FlowCheck, GroundReport, Sight } from "../../api/types";
import { ink } from "../../app/theme";
import { deleted, useEdits } from "../../shared/edits";
import { Choice } from "../../shared/Choice";
import { faultAt } from "../../shared/faults";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { Cross, DeleteButton } from "../../shared/DeleteButton";
import type { Family } from "../../shared/units";
import { quantityText } from "../../shared/units";
import { BarometerRows, LINE } from "./BarometerRows";
import { flowTold, riseTold } from "./model";
import { WAYS } from "./sights";

interface Props {
  document: Design;
  sight: Sight;
  index: number;
  ground: GroundReport;
  flows: FlowCheck[];
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** One reading by any way but the level book: what was read, and what it says of heights. */
export function SightCard({ document, sight, index, ground, flows, faults, edit, onDone }: Props) {
  const { apply } = useEdits();
  const system = usePreferences((state) => state.system);
  const path = `/sights/${index}`;
  const number = index + 1;
  const change = (key: string, recipe: (own: Sight) => void, done = false) => {
    edit(`sight${index}.${key}`, (draft) => {
      const own = draft.sights?.[index];
      if (own) recipe(own);
    });
    if (done) onDone();
  };
  const field = (
    label: string,
    key: string,
    value: number | null | undefined,
    put: (own: Sight, value: number) => void,
    options: { family?: Family; digits?: number; hint?: string; clear?: (own: Sight) => void } = {},
  ): ReactNode => (
    <QuantityField
      key={key}
      label={label}
      family={options.family ?? "m"}
      digits={options.digits ?? 2}
      value={value ?? null}
      hint={value == null ? (options.hint ?? "no reading yet") : undefined}
      fault={faultAt(faults, `${path}/${key}`)}
      onDone={onDone}
      onChange={(typed) => change(key, (own) => put(own, typed))}
      onClear={options.clear && (() => change(key, (own) => options.clear?.(own)))}
    />
  );
  const place = (label: string, value: string, put: (own: Sight, value: string) => void): ReactNode => (
    <Choice
      key={label}
      label={label}
      value={value}
      options={document.places.map((one) => ({ value: one.id, text: one.name ?? one.id }))}
      onChange={(chosen) => change(label, (own) => put(own, chosen), true)}
    />
  );
  const report = ground.sights.find((one) => one.id === sight.id);
  const flow = flows.find((one) => one.sight === sight.id);
  const fault = faultAt(faults, path);
  return (
    <Box
      component="section"
      aria-label={`${WAYS[sight.kind].name} ${number}`}
      sx={{ borderTop: `1px solid ${ink("rule")}`, py: 3 }}
    >
      <Box sx={{ display: "flex", justifyContent: "space-between" }}>
        <Typography variant="h2">{WAYS[sight.kind].name}</Typography>
        <DeleteButton
          onClick={() => {
            apply("sight.deleted", deleted(document.sights?.[index]?.id));
            onDone();
          }}
        />
      </Box>
      <Typography component="p" sx={{ fontWeight: 600 }} data-testid={`sight-told-${index}`}>
        {report?.rises.map((rise) => riseTold(document, rise, system)).join("; ")}
        {report?.plan_m != null && `; on plan ${quantityText({ value: report.plan_m, unit: "m" }, system)}`}
        {flow && flowTold(document, flow, system)}
      </Typography>
      <Typography variant="caption" component="p" sx={{ color: ink("faint"), mb: 2 }}>
        {WAYS[sight.kind].hint}
      </Typography>
      {fault && (
        <Typography role="alert" color="error">
          {fault}
        </Typography>
      )}
      {(sight.kind === "hose_level" || sight.kind === "clinometer") && (
        <Box sx={LINE}>
          {place("From", sight.from, (own, value) => {
            if ("from" in own) own.from = value;
          })}
          {place("To", sight.to, (own, value) => {
            if ("to" in own) own.to = value;
          })}
          {sight.kind === "hose_level"
            ? field(
                "Each good to ±",
                "error_each_m",
                sight.error_each_m,
                (own, value) => {
                  if (own.kind === "hose_level") own.error_each_m = value;
                },
                {
                  hint: "empty: 1 cm",
                  clear: (own) => own.kind === "hose_level" && (own.error_each_m = null),
                },
              )
            : field(
                "Known to ±, degrees",
                "angle_error_deg",
                sight.angle_error_deg,
                (own, value) => {
                  if (own.kind === "clinometer") own.angle_error_deg = value;
                },
                {
                  family: "count",
                  digits: 1,
                  hint: "empty: 1 degree",
                  clear: (own) => own.kind === "clinometer" && (own.angle_error_deg = null),
                },
              )}
        </Box>
      )}
      {sight.kind === "hose_level" &&
        sight.setups.map((setup, at) => (
          <Box key={at} sx={LINE} role="group" aria-label={`Step ${at + 1}`}>
            {field(
              "Water above ground, near end",
              `setups/${at}/from_m`,
              setup.from_m,
              (own, value) => {
                if (own.kind === "hose_level" && own.setups[at]) own.setups[at].from_m = value;
              },
              { digits: 3 },
            )}
            {field(
              "Far end",
              `setups/${at}/to_m`,
              setup.to_m,
              (own, value) => {
                if (own.kind === "hose_level" && own.setups[at]) own.setups[at].to_m = value;
              },
              { digits: 3 },
            )}
            {sight.setups.length > 1 && (
              <Cross
                label={`Delete set-up ${at + 1} of ${number}`}
                onClick={() =>
                  change("setups", (own) => own.kind === "hose_level" && own.setups.splice(at, 1), true)
                }
              />
            )}
          </Box>
        ))}
      {sight.kind === "clinometer" &&
        sight.legs.map((leg, at) => (
          <Box key={at} sx={LINE} role="group" aria-label={`Step ${at + 1}`}>
            {field(
              "Angle up, degrees",
              `legs/${at}/angle_deg`,
              leg.angle_deg,
              (own, value) => {
                if (own.kind === "clinometer" && own.legs[at]) own.legs[at].angle_deg = value;
              },
              { family: "count", digits: 1 },
            )}
            <Choice
              label="Measured in"
              value={leg.paces != null ? "paces" : "slope"}
              options={[
                { value: "paces", text: "paces" },
                { value: "slope", text: "length along the ground" },
              ]}
              onChange={(value) =>
                change(
                  "legs",
                  (own) => {
                    if (own.kind !== "clinometer" || !own.legs[at]) return;
                    const { angle_deg = null } = own.legs[at];
                    own.legs[at] = value === "paces" ? { angle_deg, paces: 100 } : { angle_deg };
                  },
                  true,
                )
              }
            />
            {leg.paces != null
              ? field(
                  "Paces",
                  `legs/${at}/paces`,
                  leg.paces,
                  (own, value) => {
                    if (own.kind === "clinometer" && own.legs[at]) own.legs[at].paces = value;
                  },
                  { family: "count", digits: 0 },
                )
              : field("Along the ground", `legs/${at}/slope_m`, leg.slope_m, (own, value) => {
                  if (own.kind === "clinometer" && own.legs[at]) own.legs[at].slope_m = value;
                })}
            {sight.legs.length > 1 && (
              <Cross
                label={`Delete leg ${at + 1} of ${number}`}
                onClick={() =>
                  change("legs", (own) => own.kind === "clinometer" && own.legs.splice(at, 1), true)
                }
              />
            )}
          </Box>
        ))}
      {sight.kind === "barometer" && <BarometerRows {...{ sight, place, field, change, number }} />}
      {(sight.kind === "satellite" || sight.kind === "contour" || sight.kind === "grid") && (
        <Box sx={LINE}>
          {place("Place", sight.place, (own, value) => {
            if ("place" in own) own.place = value;
          })}
          {field("Height", "height_m", sight.height_m, (own, value) => {
            if ("height_m" in own) own.height_m = value;
          })}
          {field(
            sight.kind === "contour" ? "Known to ± half a step" : "Known to ±",
            "error_m",
            sight.error_m,
            (own, value) => {
              if ("place" in own) own.error_m = value;
            },
          )}
          <Box sx={{ minWidth: 250 }}>
            <Choice
              label={`Heights of ${sight.source} are`}
              value={sight.datum}
              options={[
                { value: "site", text: "above the plan's own datum" },
                { value: "differences", text: "relative heights only" },
              ]}
              onChange={(value) =>
                edit(`datum${index}`, (draft) => {
                  for (const own of draft.sights ?? [])
                    if ("source" in own && own.source === sight.source) own.datum = value as "site";
                  onDone();
                })
              }
            />
          </Box>
        </Box>
      )}
      {sight.kind === "timed_flow" && (
        <Box sx={LINE}>
          <Choice
            label="Outlet"
            value={sight.outlet}
            options={(document.outlets ?? []).map((one) => ({ value: one.id, text: one.name ?? one.id }))}
            onChange={(value) =>
              change("outlet", (own) => own.kind === "timed_flow" && (own.outlet = value), true)
            }
          />
          {field(
            "Pail",
            "volume_l",
            sight.volume_l,
            (own, value) => {
              if (own.kind === "timed_flow") own.volume_l = value;
            },
            { family: "L", digits: 1 },
          )}
          {field(
            "Seconds",
            "time_s",
            sight.time_s,
            (own, value) => {
              if (own.kind === "timed_flow") own.time_s = value;
            },
            { family: "s", digits: 1 },
          )}
        </Box>
      )}
      {(sight.kind === "hose_level" || sight.kind === "clinometer") && (
        <Button
          variant="outlined"
          onClick={() =>
            change(
              "more",
              (own) => {
                if (own.kind === "hose_level") own.setups.push({});
                if (own.kind === "clinometer") own.legs.push({ paces: 100 });
              },
              true,
            )
          }
        >
          {sight.kind === "hose_level" ? "Next set-up" : "Next leg"}
        </Button>
      )}
    </Box>
  );
}
