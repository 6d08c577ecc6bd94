import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import { runSeason } from "../../api/client";
import type { Analysis, Design, Fault, SeasonAnswer } from "../../api/types";
import { ink } from "../../app/theme";
import { Caution } from "../../shared/Caution";
import { usePreferences } from "../../shared/preferences";
import { Choice } from "../../shared/Choice";
import { QuantityField } from "../../shared/QuantityField";
import { quantityText } from "../../shared/units";
import { useSettled } from "../../shared/useSettled";
import { Compare } from "./Compare";
import { InflowCard } from "./InflowCard";
import { KINDS } from "./inflow";
import { Season } from "./Season";
import { Stores } from "./Stores";
import { useEdits } from "../../shared/edits";

interface Props {
  document: Design;
  analysis: Analysis;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** What comes in, what is in store, and how long that lasts. */
export function Water({ document, analysis, faults, edit, onDone }: Props) {
  const { apply } = useEdits();
  const system = usePreferences((state) => state.system);
  const { supply } = analysis;
  const told = useSettled(["season"], document, document, runSeason);
  const daily = (value: number) => quantityText({ value, unit: "L/d" }, system);
  const wanted = document.requirements?.findIndex((one) => one.days_in_hand) ?? -1;
  return (
    <Box sx={{ p: 5, maxWidth: 900 }}>
      <Typography variant="h1">
        Water in: {daily(supply.refill_lpd)}
        {supply.need_lpd === 0
          ? ", no use yet"
          : supply.spare_lpd === 0
            ? ", as much as is used"
            : `, ${daily(Math.abs(supply.spare_lpd))} ${supply.spare_lpd > 0 ? "more" : "less"} than is used`}
      </Typography>
      {supply.system && (
        <Typography color="text.secondary" data-testid="system">
          No water runs between the systems of this plan. The figures are of {supply.system}, which lasts
          least.
        </Typography>
      )}
      <Bars analysis={analysis} bars={told?.bars ?? []} />
      {(document.inflows ?? []).map((inflow, index) => (
        <InflowCard
          key={inflow.id}
          {...{ document, givers: analysis.givers, inflow, index, faults, edit, onDone }}
          report={supply.inflows.find((one) => one.id === inflow.id)}
        />
      ))}
      {(document.vessels ?? []).length > 0 && (
        <Box sx={{ width: 220, my: 2 }}>
          <Choice
            label="Add a source"
            value=""
            options={[
              { value: "", text: "choose …" },
              ...KINDS.map(({ kind, text }) => ({ value: kind, text })),
            ]}
            onChange={(kind) => {
              const chosen = KINDS.find((one) => one.kind === kind);
              if (!chosen) return;
              apply("inflow.new", [{ kind: "add_inflow", source: chosen.kind }]);
              onDone();
            }}
          />
        </Box>
      )}
      <Box component="section" aria-label="Store" sx={{ borderTop: `1px solid ${ink("rule")}`, py: 3 }}>
        <Typography variant="h2">In store</Typography>
        <Typography sx={{ mb: 2 }}>
          {quantityText({ value: supply.usable_l, unit: "L" }, system)} can be drawn;{" "}
          {quantityText({ value: supply.dead_l, unit: "L" }, system)} below the outlets are dead. With no
          refill it lasts{" "}
          <strong>
            {supply.days_in_hand === null
              ? "as long as nobody draws: there is no use yet"
              : quantityText({ value: supply.days_in_hand, unit: "d" }, system)}
          </strong>
          .
        </Typography>
        <Carries analysis={analysis} document={document} />
        <Stores document={document} supply={supply} />
        <Box sx={{ maxWidth: 170, mt: 2 }}>
          <QuantityField
            label="Days in hand wanted"
            family="d"
            value={supply.wanted_days}
            hint={supply.wanted_is_default ? "our own default; type to confirm" : undefined}
            onDone={onDone}
            onChange={(value) =>
              edit("days-in-hand", (draft) => {
                draft.requirements ??= [];
                const own = draft.requirements[wanted];
                const tank = analysis.routes.find((route) => route.vessel)?.vessel;
                if (own) own.days_in_hand = value;
                else if (tank) draft.requirements.push({ vessel: tank, days_in_hand: value });
              })
            }
          />
        </Box>
      </Box>
      <Season
        document={document}
        season={told?.season ?? null}
        wantedDays={supply.wanted_days}
        edit={edit}
        onDone={onDone}
      />
      <Compare document={document} />
      <Caution>
        Keep two independent days in hand and look daily. Spring, pond and roof water is not drinking water
        for people.
      </Caution>
    </Box>
  );
}

/** With nothing coming in: which animals the store carries for how many hours, and how often it must be filled. */
function Carries({ analysis, document }: { analysis: Analysis; document: Design }) {
  const system = usePreferences((state) => state.system);
  const { supply, need } = analysis;
  if (supply.days_in_hand === null || !need.herds.some((herd) => herd.head > 0)) return null;
  const herds = need.herds.filter((herd) => herd.head > 0);
  const names = herds.map(
    (herd) =>
      `${herd.head} ${(document.herds?.find((one) => one.id === herd.id)?.name ?? herd.id).toLowerCase()}`,
  );
  const hours = 24 * supply.days_in_hand;
  const others = need.others.length > 0 ? ", with plants and ponds," : "";
  return (
    <Typography component="p" data-testid="carries" sx={{ mb: 2 }}>
      With every source lost it carries {names.join(", ")}
      {others} for {hours < 100 ? `${hours.toFixed(0)} hours` : `${supply.days_in_hand.toFixed(0)} days`}
      {supply.spare_lpd < 0 &&
        `; as it is, ${quantityText({ value: -supply.spare_lpd, unit: "L/d" }, system)} are to be brought to it, or ${quantityText({ value: supply.usable_l, unit: "L" }, system)} every ${((24 * supply.usable_l) / -supply.spare_lpd).toFixed(0)} hours`}
      .
    </Typography>
  );
}

/** In and out of one day in every case and in the worst week, and the store, on one scale. */
function Bars({ analysis, bars }: { analysis: Analysis; bars: SeasonAnswer["bars"] }) {
  const system = usePreferences((state) => state.system);
  const { supply } = analysis;
  const shown = { title: analysis.need.scenario, in_lpd: supply.refill_lpd, out_lpd: supply.need_lpd };
  const days = [shown, ...bars.filter((bar) => bar.title !== shown.title)];
  const most = Math.max(1, supply.usable_l, ...days.flatMap((day) => [day.in_lpd, day.out_lpd]));
  const bar = (value: number, tone: "enough" | "short" | "pipe" | "water", text: string) => (
    <Box sx={{ display: "flex", alignItems: "center", gap: 2, fontSize: 13 }}>
      <Box sx={{ height: 12, width: `${(62 * value) / most}%`, minWidth: "2px", bgcolor: ink(tone) }} />
      {text}
    </Box>
  );
  const litres = (value: number) => quantityText({ value, unit: "L/d" }, system);
  return (
    <Box
      component="dl"
      data-testid="bars"
      sx={{
        my: 4,
        display: "grid",
        gridTemplateColumns: "minmax(90px, 190px) 1fr",
        rowGap: 2,
        alignItems: "center",
      }}
    >
      {days.map((day, index) => (
        <Box key={day.title} sx={{ display: "contents" }}>
          <dt style={{ fontWeight: index === 0 ? 700 : 400 }}>{day.title}</dt>
          <Box component="dd" sx={{ m: 0 }}>
            {bar(day.in_lpd, "enough", `${litres(day.in_lpd)} in`)}
            {bar(
              day.out_lpd,
              day.out_lpd > day.in_lpd ? "short" : "pipe",
              `${day.out_lpd > day.in_lpd ? "■ " : ""}${litres(day.out_lpd)} out`,
            )}
          </Box>
        </Box>
      ))}
      <dt>In store</dt>
      <Box component="dd" sx={{ m: 0 }}>
        {bar(supply.usable_l, "water", quantityText({ value: supply.usable_l, unit: "L" }, system))}
      </Box>
    </Box>
  );
}
