import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { Analysis, Design, Fault } from "../../api/types";
import { ink } from "../../app/theme";
import { Caution } from "../../shared/Caution";
import { usePreferences } from "../../shared/preferences";
import { faultAt } from "../../shared/faults";
import { QuantityField } from "../../shared/QuantityField";
import { quantityText } from "../../shared/units";

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
        <Box
          key={inflow.id}
          component="section"
          aria-label={inflow.name ?? inflow.id}
          sx={{ borderTop: `1px solid ${ink("rule")}`, py: 3 }}
        >
          <Typography variant="h2">{inflow.name ?? inflow.id}</Typography>
          <Typography color="text.secondary" sx={{ mb: 2 }}>
            Fill a pail of known size and time it. Planned on the slowest timing.
          </Typography>
          {inflow.timings.map((timing, number) => (
            <Box
              key={number}
              sx={{
                display: "grid",
                gridTemplateColumns: "110px 140px 140px",
                gap: 5,
                alignItems: "end",
                mb: 2,
              }}
            >
              <Typography>{timing.date ?? `timing ${number + 1}`}</Typography>
              {(["volume_l", "time_s"] as const).map((key) => (
                <QuantityField
                  key={key}
                  label={key === "volume_l" ? "Pail" : "Filled in"}
                  family={key === "volume_l" ? "L" : "s"}
                  digits={1}
                  value={timing[key]}
                  fault={faultAt(faults, `/inflows/${index}/timings/${number}/${key}`)}
                  onDone={onDone}
                  onChange={(value) =>
                    edit(`inflow${index}.${number}.${key}`, (draft) => {
                      const own = draft.inflows?.[index]?.timings[number];
                      if (own) own[key] = value;
                    })
                  }
                />
              ))}
            </Box>
          ))}
        </Box>
      ))}
      <Box component="section" aria-label="Store" sx={{ borderTop: `1px solid ${ink("rule")}`, py: 3 }}>
        <Typography variant="h2">In store</Typography>
        <Typography sx={{ mb: 2 }}>
          {quantityText({ value: supply.usable_l, unit: "L" }, system)} can be drawn; what lies below the
          outlet is dead. With no refill it lasts{" "}
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
      <Caution>
        Keep two independent days in hand and look daily. Spring and roof water is not drinking water for
        people.
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
