import Typography from "@mui/material/Typography";

import type { Analysis, Design } from "../../api/types";
import { usePreferences } from "../../shared/preferences";
import { quantityText } from "../../shared/units";

/** With nothing coming in: which animals the store carries for how many hours, and how often it must be filled. */
export function Carries({
  analysis,
  days,
  document,
}: {
  analysis: Analysis;
  days: number | null;
  document: Design;
}) {
  const system = usePreferences((state) => state.system);
  const { supply, demand } = analysis;
  if (days === null || !demand.herds.some((herd) => herd.head > 0)) return null;
  const herds = demand.herds.filter((herd) => herd.head > 0);
  const names = herds.map(
    (herd) =>
      `${herd.head} ${(document.herds?.find((one) => one.id === herd.id)?.name ?? herd.id).toLowerCase()}`,
  );
  const hours = 24 * days;
  const others = demand.others.length > 0 ? ", plants and ponds included," : "";
  return (
    <Typography component="p" data-testid="carries" sx={{ mb: 2 }}>
      With every source lost the store lasts {names.join(", ")}
      {others} for {hours < 100 ? `${hours.toFixed(0)} hours` : `${days.toFixed(0)} days`}
      {supply.spare_lpd < 0 &&
        `; as it is, ${quantityText({ value: -supply.spare_lpd, unit: "L/d" }, system)} are to be brought to it, or ${quantityText({ value: supply.usable_l, unit: "L" }, system)} every ${((24 * supply.usable_l) / -supply.spare_lpd).toFixed(0)} hours`}
      .
    </Typography>
  );
}
