import Box from "@mui/material/Box";

import type { Analysis, SeasonAnswer } from "../../api/types";
import { ink } from "../../app/theme";
import { usePreferences } from "../../shared/preferences";
import { quantityText } from "../../shared/units";

/** In and out of one day in every case and in the worst week, and the store, on one scale. */
export function Bars({ analysis, bars }: { analysis: Analysis; bars: SeasonAnswer["bars"] }) {
  const system = usePreferences((state) => state.system);
  const { supply } = analysis;
  const shown = { title: analysis.demand.scenario, in_lpd: supply.refill_lpd, out_lpd: supply.demand_lpd };
  const days = [shown, ...bars.filter((bar) => bar.title !== shown.title)];
  const short = (day: { in_lpd: number; out_lpd: number }) => day.out_lpd > day.in_lpd && !supply.by_hand;
  const most = Math.max(1, supply.usable_l, ...days.flatMap((day) => [day.in_lpd, day.out_lpd]));
  const bar = (value: number, tone: "enough" | "short" | "pipe" | "water", text: string) => (
    <Box sx={{ display: "flex", alignItems: "center", gap: 2, lineHeight: 1.35, whiteSpace: "nowrap" }}>
      <Box sx={{ height: 10, width: `${(48 * value) / most}%`, minWidth: "2px", bgcolor: ink(tone) }} />
      {text}
    </Box>
  );
  const litres = (value: number) => quantityText({ value, unit: "L/d" }, system);
  return (
    <Box
      component="dl"
      data-testid="bars"
      sx={{
        my: 2,
        fontSize: 13,
        display: "grid",
        gridTemplateColumns: "minmax(80px, 120px) 1fr",
        rowGap: 1.5,
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
              short(day) ? "short" : "pipe",
              `${short(day) ? "■ " : ""}${litres(day.out_lpd)} out`,
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
