import Typography from "@mui/material/Typography";

import type { Analysis, Design } from "../../api/types";
import { usePreferences } from "../../shared/preferences";
import { quantityText } from "../../shared/units";
import { duration } from "./model";

const MINUTES_A_DAY = 1440;

interface Props {
  document: Design;
  fill: Analysis["demand"]["unattended"][number];
}

/** What happens when nobody looks: minutes until the vessel runs over, and litres in every hour after. */
export function Unattended({ document, fill }: Props) {
  const system = usePreferences((state) => state.system);
  const outlet = document.outlets?.find((one) => one.id === fill.outlet);
  const name = outlet?.name ?? fill.outlet;
  const when = fill.has_float ? "stuck open" : "left open";
  const over = quantityText({ value: fill.over_l_per_h, unit: "L" }, system);
  const lost = quantityText({ value: fill.lost_lpd, unit: "L/d" }, system);
  const comes = quantityText({ value: fill.flow_lpm * MINUTES_A_DAY, unit: "L/d" }, system);
  return (
    <Typography
      component="p"
      sx={{ fontSize: 13 }}
      color={fill.sinks ? "error" : undefined}
      data-testid={`unattended-${fill.outlet}`}
    >
      {fill.sinks
        ? `Its level falls: it loses ${lost}, and ${name} open all day brings ${comes}.`
        : fill.full_min === null
          ? `${name} ${when} would not fill it in a year: it loses as much as comes in.`
          : fill.by_design
            ? `${name} runs all day: once it is full, ${over} overflow every hour.`
            : `${name} ${when}: from its level now it is full after ${duration(fill.full_min)}, and ${over} overflow every hour after.`}
    </Typography>
  );
}
