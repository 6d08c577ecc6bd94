import Typography from "@mui/material/Typography";

import type { Analysis, Design } from "../../api/types";
import { usePreferences } from "../../shared/preferences";
import { quantityText } from "../../shared/units";
import { duration } from "./model";

interface Props {
  document: Design;
  fill: Analysis["need"]["unattended"][number];
}

/** What happens when nobody looks: minutes until the vessel runs over, and litres in every hour after. */
export function Unattended({ document, fill }: Props) {
  const system = usePreferences((state) => state.system);
  const outlet = document.outlets?.find((one) => one.id === fill.outlet);
  const name = outlet?.name ?? fill.outlet;
  const when = fill.has_float ? "stuck open" : "left open";
  return (
    <Typography component="p" sx={{ fontSize: 13 }} data-testid={`unattended-${fill.outlet}`}>
      {fill.full_min === null
        ? `${name} ${when} never fills it: it loses more than comes in.`
        : `${name} ${when}: from its level now it is full after ${duration(fill.full_min)}, and ${quantityText({ value: fill.over_l_per_h, unit: "L" }, system)} run over in every hour after.`}
    </Typography>
  );
}
