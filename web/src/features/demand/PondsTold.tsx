import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import { tellPonds } from "../../api/field";
import type { Design, PondTold } from "../../api/types";
import { Caution } from "../../shared/Caution";
import { durationText } from "../../shared/duration";
import { nameIn } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { Rows } from "../../shared/Rows";
import { saidText } from "../../shared/saidText";
import { quantityText, type System } from "../../shared/units";
import { useKept } from "../../shared/useKept";
import { useSettled } from "../../shared/useSettled";

const PLACES = {
  pond: "in the pond",
  filter: "in the filter chamber",
  balance: "in a balance chamber beside it",
} as const;

/** A pond's levels with its pump on and off, the places its float may be in, changes of water, and its top-up. */
export function PondsTold({ document, vessel }: { document: Design; vessel: string }) {
  const system = usePreferences((state) => state.system);
  const answer = useKept(useSettled(["ponds"], document, document, tellPonds));
  const told = answer?.ponds.find((one) => one.vessel === vessel);
  if (!told) return null;
  const metres = (value: number) => quantityText({ value, unit: "m", digits: 2 }, system);
  const { loop } = told;
  return (
    <Box data-testid={`pond-${vessel}`}>
      <Typography component="p">{topUpText(told, system)}</Typography>
      {told.change && <Typography component="p">{changeText(told.change, system)}</Typography>}
      {told.remover_d !== null && (
        <Typography component="p">
          The chlorine remover lasts {told.remover_d.toFixed(0)} days at that.
        </Typography>
      )}
      {told.storm_over_l !== null && (
        <Typography component="p">
          {told.storm_over_l > 0
            ? `The storm runs ${quantityText({ value: told.storm_over_l, unit: "L" }, system)} over, the float shut.`
            : "The storm stays under the overflow, the float shut."}
        </Typography>
      )}
      {loop && (
        <Rows
          label="Levels with the pump on and off"
          heads={[
            { text: "Level over its floor" },
            { text: "Pump on", kind: "figure" },
            { text: "Pump off", kind: "figure" },
          ]}
        >
          <tr>
            <th scope="row">{nameIn(document.vessels, vessel)}</th>
            <td className="figure">{metres(loop.pond_on_m)}</td>
            <td className="figure">{metres(loop.pond_off_m)}</td>
          </tr>
          <tr>
            <th scope="row">{nameIn(document.vessels, loop.chamber)}</th>
            <td className="figure">{metres(loop.chamber_on_m)}</td>
            <td className="figure">{metres(loop.chamber_off_m)}</td>
          </tr>
        </Rows>
      )}
      <Rows
        label="Where the float may be"
        heads={[{ text: "The float" }, { text: "Set to", kind: "figure" }, { text: "What that means" }]}
      >
        {told.places.map((place) => (
          <tr key={place.place}>
            <th scope="row">
              {PLACES[place.place]}
              {place.is_here && <span className="aside">as it is here</span>}
            </th>
            <td className="figure">{place.set_to_m === null ? "" : metres(place.set_to_m)}</td>
            <td>{place.says.map((one) => `${saidText(one, system)}.`).join(" ")}</td>
          </tr>
        ))}
      </Rows>
      <Caution>
        Ponds and deep chambers drown children and small animals: covers, and a ramp to climb out. A pump in
        water needs a residual-current device and someone licensed.
      </Caution>
    </Box>
  );
}

function topUpText(told: PondTold, system: System): string {
  const daily = (value: number) => quantityText({ value, unit: "L/d" }, system);
  const still = quantityText({ value: told.still_mm_d, unit: "mm" }, system);
  const expected = `On a day without rain it should take ${daily(told.least_lpd)} to ${daily(told.most_lpd)}`;
  if (told.measured_lpd !== null) return `${expected}; measured: ${daily(told.measured_lpd)}.`;
  return `${expected}. A float hides a leak: shut the feed for a day, and more than ${still} is one.`;
}

function changeText(change: NonNullable<PondTold["change"]>, system: System): string {
  const out = change.out_s === null ? "" : `, out in ${durationText(change.out_s)}`;
  const full =
    change.refill_s === null ? "never full again" : `full again after ${durationText(change.refill_s)}`;
  const short =
    change.short === null ? "Nobody goes short meanwhile." : `Meanwhile ${saidText(change.short, system)}.`;
  return `A change takes ${quantityText({ value: change.volume_l, unit: "L" }, system)}${out}, ${full}; the next comes after ${durationText(change.between_s)}. ${short}`;
}
