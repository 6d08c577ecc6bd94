import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import { tellRows } from "../../api/field";
import type { Design, Fault, RowSeason } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { durationText } from "../../shared/duration";
import { Folded } from "../../shared/Folded";
import { faultAt } from "../../shared/faults";
import { nameIn } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { Rows } from "../../shared/Rows";
import { saidText } from "../../shared/saidText";
import { quantityText } from "../../shared/units";
import { useKept } from "../../shared/useKept";
import { useSettled } from "../../shared/useSettled";
import { LevellingPicture } from "./LevellingPicture";
import { FIELDS } from "../../shared/fields";

interface Props {
  document: Design;
  outlet: string;
  vessels: string[];
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** A row's tubes, which of its containers lags, what it takes week by week, and how many could be served. */
export function RowOverSeason({ document, outlet, vessels, faults, edit, onDone }: Props) {
  const system = usePreferences((state) => state.system);
  const answer = useKept(useSettled(["rows"], document, document, tellRows));
  const told = answer?.rows.find((row) => row.outlet === outlet);
  const litres = (value: number) => quantityText({ value, unit: "L", digits: 0 }, system);
  const depth = (value: number) => quantityText({ value: Math.max(0, value), unit: "m", digits: 3 }, system);
  return (
    <>
      {vessels.map((id) => (
        <Links key={id} {...{ document, id, faults, edit, onDone }} />
      ))}
      {told && (
        <Typography component="p" data-testid={`serves-${outlet}`} sx={{ mt: 2 }}>
          {servedText(told)}
          {told.air_h !== null && ` Air is blown through it ${told.air_h.toFixed(1)} hours a day.`}
        </Typography>
      )}
      {told?.levelling && (
        <>
          <Typography component="p" data-testid={`lags-${outlet}`}>
            <strong>
              {saidText(told.levelling.last, system)} lags {durationText(told.levelling.lag_s)}
            </strong>{" "}
            behind the float, {Math.round(100 * told.levelling.slowest_share)} % of it by{" "}
            {told.levelling.slowest === null
              ? "the links between containers"
              : nameIn(document.lines, told.levelling.slowest)}
            , and stands {depth(told.levelling.mean_m)} deep on the mean of the day,{" "}
            {depth(told.levelling.peak_m)} when plants take most, of {depth(told.levelling.depth_m)}.
            {told.levelling.level_s !== null &&
              ` Filled from empty it is level after ${durationText(told.levelling.level_s)} at best.`}
          </Typography>
          <LevellingPicture told={told.levelling} />
        </>
      )}
      {told && told.weeks.length > 0 && <Season {...{ document, told, litres }} />}
    </>
  );
}

function servedText({ by_float: byFloat, by_tubes: byTubes, reservoir_d: days }: RowSeason): string {
  const parts = [
    byFloat === null ? "" : `${byFloat} by its float`,
    byTubes === null ? "" : `${byTubes} by its tubes`,
  ].filter(Boolean);
  const most = parts.length
    ? `At the season’s peak it could supply so many such containers: ${parts.join(", ")}.`
    : "";
  return `${most}${days === null ? "" : ` A full reservoir lasts ${days.toFixed(1)} days then.`}`;
}

function Season({
  document,
  told,
  litres,
}: {
  document: Design;
  told: RowSeason;
  litres: (value: number) => string;
}) {
  const system = usePreferences((state) => state.system);
  const each = (value: number) => quantityText({ value, unit: "L", digits: 1 }, system);
  return (
    <>
      <Typography component="p" data-testid={`season-${told.outlet}`} sx={{ mt: 2 }}>
        Over the season {litres(told.needed_l)} come through the float.
        {told.reservoir !== null &&
          (told.lasts_to === null
            ? ` ${nameIn(document.vessels, told.reservoir)}, full with ${litres(told.reservoir_l)}, is enough without refill.`
            : ` ${nameIn(document.vessels, told.reservoir)}, full with ${litres(told.reservoir_l)} and never refilled, lasts to ${told.lasts_to}.`)}
      </Typography>
      <Folded title="Week by week">
        <Rows
          label="The row week by week"
          heads={[
            { text: "Week from" },
            { text: "A day", kind: "figure" },
            { text: "Plants take", kind: "figure" },
            { text: "Float closes at", kind: "figure" },
            { text: "Through the float", kind: "figure" },
            ...(told.reservoir === null ? [] : [{ text: "Left without refill", kind: "figure" as const }]),
          ]}
        >
          {told.weeks.map((week) => (
            <tr key={week.begins}>
              <th scope="row">{week.begins}</th>
              <td className="figure">{each(week.daily_l)}</td>
              <td className="figure">{litres(week.taken_l)}</td>
              <td className="figure">
                {quantityText({ value: week.closes_at_m, unit: "m", digits: 3 }, system)}
              </td>
              <td className="figure">{litres(week.topped_l)}</td>
              {week.left_l !== null && <td className="figure">{litres(Math.max(0, week.left_l))}</td>}
            </tr>
          ))}
        </Rows>
      </Folded>
    </>
  );
}

type Vessel = NonNullable<Design["vessels"]>[number];

/** The tubes between containers of one number: bore, length, where the water comes in. */
function Links({ document, id, faults, edit, onDone }: Omit<Props, "outlet" | "vessels"> & { id: string }) {
  const index = (document.vessels ?? []).findIndex((one) => one.id === id);
  const vessel = document.vessels?.[index];
  if (!vessel || vessel.role !== "bucket_row") return null;
  const change = (key: string, recipe: (own: Vessel) => void) =>
    edit(`${id}.${key}`, (draft) => {
      const own = draft.vessels?.[index];
      if (own) recipe(own);
    });
  const at = (key: string) => faultAt(faults, `/vessels/${index}/${key}`);
  return (
    <Box sx={FIELDS}>
      {(vessel.count ?? 1) > 1 && (
        <>
          <QuantityField
            label="Link pipe bore"
            family="mm"
            value={vessel.link_mm ?? null}
            hint={vessel.link_mm == null ? "unknown: not judged" : undefined}
            fault={at("link_mm")}
            onDone={onDone}
            onChange={(value) => change("link_mm", (own) => void (own.link_mm = value))}
            onClear={() => change("link_mm", (own) => void (own.link_mm = null))}
          />
          <QuantityField
            label="Length of each link"
            family="m"
            digits={2}
            value={vessel.link_m ?? null}
            hint={vessel.link_m == null ? "unknown: not judged" : undefined}
            fault={at("link_m")}
            onDone={onDone}
            onChange={(value) => change("link_m", (own) => void (own.link_m = value))}
            onClear={() => change("link_m", (own) => void (own.link_m = null))}
          />
          <Choice
            label="Water comes in"
            value={vessel.fed_at ?? "end"}
            options={[
              { value: "end", text: "at one end" },
              { value: "middle", text: "at the middle" },
            ]}
            onChange={(value) => {
              change("fed_at", (own) => void (own.fed_at = value as "end" | "middle"));
              onDone();
            }}
          />
        </>
      )}
      <QuantityField
        label="Air pump, minutes an hour"
        family="count"
        value={vessel.air_min_per_h ?? null}
        hint={vessel.air_min_per_h == null ? "none" : undefined}
        fault={at("air_min_per_h")}
        onDone={onDone}
        onChange={(value) => change("air_min_per_h", (own) => void (own.air_min_per_h = value))}
        onClear={() => change("air_min_per_h", (own) => void (own.air_min_per_h = null))}
      />
    </Box>
  );
}
