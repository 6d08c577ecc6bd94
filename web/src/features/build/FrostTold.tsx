import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { Design, Fault, WinterReport } from "../../api/types";
import { ink } from "../../app/theme";
import { durationText } from "../../shared/duration";
import { Folded } from "../../shared/Folded";
import { faultAt } from "../../shared/faults";
import { nameOfPart } from "../../shared/names";
import { usePreferences } from "../../shared/preferences";
import { priceText } from "../../shared/price";
import { QuantityField } from "../../shared/QuantityField";
import { Rows } from "../../shared/Rows";
import { saidText } from "../../shared/saidText";
import { quantityText } from "../../shared/units";
import type { BuildProps } from "./Build";
import { between, iceText, range } from "./frost";
import { FrostCovers } from "./FrostCovers";

interface Props extends Pick<BuildProps, "edit" | "onDone"> {
  document: Design;
  told: WinterReport;
  faults: Fault[];
}

const LEAST_LPM = 0.005;
const DOES = {
  true: { ink: "deep", mark: "●", text: "would do" },
  false: { ink: "short", mark: "■", text: "does not do yet" },
  null: { ink: "little", mark: "◆", text: "not certain" },
} as const;
/** What the frost does: the ways through it, what freezes first, what keeps it open, the ice on tanks and troughs. */
export function FrostTold({ document, told, faults, edit, onDone }: Props) {
  const system = usePreferences((state) => state.system);
  const currency = document.site.currency ?? "USD";
  const metres = (value: number, digits = 2) => quantityText({ value, unit: "m", digits }, system);
  const litres = (value: number) => quantityText({ value, unit: "L" }, system);
  const thick = (value: number) =>
    quantityText({ value: value * 1000, unit: "mm", digits: system === "metric" ? 0 : 1 }, system);
  const days = (value: number) => quantityText({ value, unit: "d", digits: value < 10 ? 1 : 0 }, system);
  const daily = (value: number) => quantityText({ value, unit: "L/d" }, system);
  const name = (id: string) => nameOfPart(document, id);
  const bleeds = document.frost?.bleeds ?? [];
  const setBleed = (outlet: string, flow: number | null) =>
    edit(`frost.bleed.${outlet}`, (draft) => {
      if (!draft.frost) return;
      const others = (draft.frost.bleeds ?? []).filter((one) => one.outlet !== outlet);
      draft.frost.bleeds = flow === null ? others : [...others, { outlet, flow_lpm: flow }];
    });
  return (
    <>
      <Typography data-testid="frost-told">
        {told.days} days, {told.degree_days.toFixed(0)} degree-days. Frost goes {metres(told.depth_m)} deep;
        water comes at {quantityText({ value: told.source_c, unit: "°C" }, system)}.
      </Typography>
      <Typography variant="h2" sx={{ mt: 4 }}>
        Ways through it
      </Typography>
      <Rows
        label="Ways through the winter"
        heads={[
          { text: "Way" },
          { text: "Trench", kind: "figure" },
          { text: "Price", kind: "figure" },
          { text: "Work, one person", kind: "figure" },
          { text: "Water", kind: "figure" },
          { text: "Days without", kind: "figure" },
          { text: "What it means", kind: "wide" },
        ]}
      >
        {told.ways.map((way) => (
          <tr key={way.key} data-testid={`way-${way.key}`}>
            <th scope="row" style={{ fontWeight: 700, minWidth: 130 }}>
              <span aria-hidden style={{ color: ink(DOES[`${way.does}`].ink) }}>
                {DOES[`${way.does}`].mark}{" "}
              </span>
              {way.name}
              <span className="aside">{DOES[`${way.does}`].text}</span>
              <Box sx={{ display: { xs: "block", md: "none" }, fontWeight: 400 }}>
                {saidText(way.means, system)}
              </Box>
            </th>
            <td className="figure">{way.dig_m ? metres(way.dig_m, 0) : "–"}</td>
            <td className="figure">{way.price ? priceText(way.price, currency) : "–"}</td>
            <td className="figure">{way.work_h.toFixed(way.work_h < 10 ? 1 : 0)} h</td>
            <td className="figure">{way.water_lpd ? daily(way.water_lpd) : "–"}</td>
            <td className="figure">{way.days_without || "–"}</td>
            <td className="wide">{saidText(way.means, system)}</td>
          </tr>
        ))}
      </Rows>
      <Typography variant="h2" sx={{ mt: 4 }}>
        What freezes first, while it stands still
      </Typography>
      <Rows
        label="Lines in the frost"
        heads={[
          { text: "Line" },
          { text: "Cover", kind: "figure" },
          { text: "At 0 °C after", kind: "figure" },
          { text: "Ice all through after", kind: "figure" },
        ]}
      >
        {told.lines.map((one) => (
          <tr key={one.line} data-testid={`frozen-${one.line}`}>
            <th scope="row">
              {name(one.line)}
              {one.riser && <span className="aside">where it comes up at {one.riser}</span>}
            </th>
            <td className="figure">{metres(one.cover_m)}</td>
            <td className="figure">{one.cold_s == null ? "stays open" : durationText(one.cold_s)}</td>
            <td className="figure">
              {one.frozen_s == null ? "not in this frost" : durationText(one.frozen_s)}
            </td>
          </tr>
        ))}
      </Rows>
      <Folded title="What keeps it open">
        <Rows
          label="Water left running"
          heads={[
            { text: "Outlet" },
            { text: "Least, all together", kind: "figure" },
            { text: "Left running" },
            { text: "Arrives at", kind: "figure" },
            { text: "Where it goes", kind: "wide" },
          ]}
        >
          {told.bleeds.map((one) => {
            const own = bleeds.findIndex(({ outlet }) => outlet === one.outlet);
            return (
              <tr key={one.outlet} data-testid={`bleed-${one.outlet}`}>
                <th scope="row">{name(one.outlet)}</th>
                <td className="figure">
                  {one.least_lpm == null
                    ? "no flow does"
                    : one.least_lpm < LEAST_LPM
                      ? "what runs past it does"
                      : quantityText({ value: one.least_lpm, unit: "L/min" }, system)}
                  {one.is_too_much && (
                    <span className="aside">
                      it passes {quantityText({ value: one.passes_lpm, unit: "L/min" }, system)} at most
                    </span>
                  )}
                </td>
                <td>
                  <Box sx={{ width: 110 }}>
                    <QuantityField
                      label=""
                      name={`Left running at ${name(one.outlet)}`}
                      family="L/min"
                      value={bleeds[own]?.flow_lpm ?? null}
                      fault={own < 0 ? undefined : faultAt(faults, `/frost/bleeds/${own}/flow_lpm`)}
                      onDone={onDone}
                      onChange={(flow) => setBleed(one.outlet, flow)}
                      onClear={() => setBleed(one.outlet, null)}
                    />
                  </Box>
                </td>
                <td className="figure">
                  {one.asked_c == null
                    ? "–"
                    : one.asked_c < 0
                      ? "freezes on the way"
                      : quantityText({ value: one.asked_c, unit: "°C" }, system)}
                </td>
                <td className="wide">
                  {saidText(one.goes, system)}
                  {one.riser_mm !== null && (
                    <span className="aside">
                      a riser of {quantityText({ value: one.riser_mm, unit: "mm", digits: 0 }, system)} bore
                      or more carries that, and the valve stuck open
                    </span>
                  )}
                </td>
              </tr>
            );
          })}
        </Rows>
        {told.sources.map((one) => (
          <Typography key={one.vessel} sx={{ mt: 1, fontSize: 13 }}>
            {name(one.vessel)}: {one.comes_lpd == null ? "no limit known" : `${daily(one.comes_lpd)} come`},{" "}
            {daily(one.needed_lpd)} are needed,{" "}
            {one.bled_lpd == null
              ? "no flow keeps its lines open"
              : `${daily(one.bled_lpd)} ${one.by_plan ? "are left running" : "would keep its lines open"}`}
            .
          </Typography>
        ))}
      </Folded>
      <Folded title="Ice at the end of the frost">
        <Rows
          label="Ice on tanks and troughs"
          heads={[
            { text: "Vessel" },
            { text: "Ice on top", kind: "figure" },
            { text: "Stays liquid", kind: "figure" },
            { text: "Then" },
          ]}
        >
          {told.vessels.map((one) => (
            <tr key={one.vessel} data-testid={`ice-${one.vessel}`}>
              <th scope="row">{name(one.vessel)}</th>
              <td className="figure">
                {thick(one.top_m[1])}
                <span className="aside">{range(thick, one.top_m)}</span>
              </td>
              <td className="figure">
                {litres(one.core_l[1])}
                <span className="aside">{range(litres, one.core_l)}</span>
              </td>
              <td>
                {iceText(one)}
                {one.left_d?.[1] ? (
                  <span className="aside">
                    at {daily(one.drawn_lpd)} it lasts {days(one.left_d[1])} with no refill
                    {between(range(days, one.left_d))}
                  </span>
                ) : null}
                {one.open_lpd !== null && !one.kept_open && one.drawn_lpd > 0 && (
                  <span className="aside">{litres(one.open_lpd)} a day drawn would keep it free of ice</span>
                )}
              </td>
            </tr>
          ))}
        </Rows>
      </Folded>
      {told.herds.length > 0 && (
        <Folded title="Animals in the frost">
          <Rows
            label="Animals in the frost"
            heads={[
              { text: "Herd" },
              { text: "Each needs", kind: "figure" },
              { text: "All", kind: "figure" },
              { text: "Walks to water up to", kind: "figure" },
              { text: "Its paddock reaches", kind: "figure" },
            ]}
          >
            {told.herds.map((one) => (
              <tr key={one.herd} data-testid={`winter-${one.herd}`}>
                <th scope="row">
                  {name(one.herd)}
                  <span className="aside">{one.head} animals</span>
                </th>
                <td className="figure">
                  {quantityText({ value: one.each_lpd, unit: "L/d", digits: 1 }, system)}
                </td>
                <td className="figure">{daily(one.daily_l)}</td>
                <td className="figure">{metres(one.limit_m, 0)}</td>
                <td className="figure">{one.farthest_m === null ? "–" : metres(one.farthest_m, 0)}</td>
              </tr>
            ))}
          </Rows>
        </Folded>
      )}
      <Folded title="Lids, foam and walls">
        <FrostCovers {...{ document, told, faults, edit, onDone }} />
      </Folded>
      <Typography sx={{ mt: 2, fontSize: 13 }}>
        Ice by Stefan’s formula with wind and cover; clear nights are in the range alone, and so is the sun
        where nobody says whether walls are dark. Pipe in the air by Churchill and Bernstein, in the ground as
        if it had been frozen for long: the most that it loses.
      </Typography>
    </>
  );
}
