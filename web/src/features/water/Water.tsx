import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { Analysis, Design, Fault } from "../../api/types";
import { ink } from "../../app/theme";
import { Caution } from "../../shared/Caution";
import { usePreferences } from "../../shared/preferences";
import { Choice } from "../../shared/Choice";
import { QuantityField } from "../../shared/QuantityField";
import { quantityText } from "../../shared/units";
import { InflowCard } from "./InflowCard";
import { KINDS, newInflow } from "./inflow";
import { Season } from "./Season";

interface Props {
  document: Design;
  analysis: Analysis;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

/** What comes in, what is in store, and how long that lasts. */
export function Water({ document, analysis, faults, edit, onDone }: Props) {
  const system = usePreferences((state) => state.system);
  const { supply } = analysis;
  const daily = (value: number) => quantityText({ value, unit: "L/d" }, system);
  const wanted = document.requirements?.findIndex((one) => one.days_in_hand) ?? -1;
  return (
    <Box sx={{ p: 5, maxWidth: 900 }}>
      <Typography variant="h1">
        Water in: {daily(supply.refill_lpd)},{" "}
        {supply.spare_lpd >= 0 ? "more than is drunk" : "less than is drunk"}
      </Typography>
      <Bars analysis={analysis} />
      {(document.inflows ?? []).map((inflow, index) => (
        <InflowCard
          key={inflow.id}
          {...{ document, inflow, index, faults, edit, onDone }}
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
              edit("inflow.new", (draft) => {
                draft.inflows = [...(draft.inflows ?? []), newInflow(draft, chosen.kind)];
              });
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
              ? "for ever, as nothing is drawn"
              : quantityText({ value: supply.days_in_hand, unit: "d" }, system)}
          </strong>
          .
        </Typography>
        <Box sx={{ maxWidth: 170 }}>
          <QuantityField
            label="Days in hand wanted"
            family="d"
            value={supply.wanted_days}
            hint={supply.wanted_is_default ? "our default, common practice; type to confirm" : undefined}
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
      <Season document={document} wantedDays={supply.wanted_days} edit={edit} onDone={onDone} />
      <Caution>
        Keep two independent days in hand and look daily. Spring, pond and roof water is not drinking water
        for people.
      </Caution>
    </Box>
  );
}

/** In and out of one day, and the store, on one scale. */
function Bars({ analysis }: { analysis: Analysis }) {
  const system = usePreferences((state) => state.system);
  const { supply } = analysis;
  const bars = [
    { text: "in, a day", value: supply.refill_lpd, unit: "L/d" as const, tone: "enough" as const },
    {
      text: "out, a day",
      value: supply.need_lpd,
      unit: "L/d" as const,
      tone: supply.spare_lpd < 0 ? ("short" as const) : ("pipe" as const),
    },
    { text: "in store", value: supply.usable_l, unit: "L" as const, tone: "water" as const },
  ];
  const most = Math.max(1, ...bars.map((bar) => bar.value));
  return (
    <Box
      component="dl"
      sx={{ my: 4, display: "grid", gridTemplateColumns: "80px 1fr", rowGap: 1, alignItems: "center" }}
    >
      {bars.map((bar) => (
        <Box key={bar.text} sx={{ display: "contents" }}>
          <dt>{bar.text}</dt>
          <Box component="dd" sx={{ m: 0, display: "flex", alignItems: "center", gap: 2 }}>
            <Box
              sx={{
                height: 18,
                width: `${(70 * bar.value) / most}%`,
                minWidth: "2px",
                bgcolor: ink(bar.tone),
              }}
            />
            {quantityText({ value: bar.value, unit: bar.unit }, system)}
          </Box>
        </Box>
      ))}
    </Box>
  );
}
