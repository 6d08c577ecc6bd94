import Typography from "@mui/material/Typography";

import type { OtherDemand } from "../../api/types";
import { usePreferences } from "../../shared/preferences";
import { Said } from "../../shared/Said";
import { quantityText } from "../../shared/units";

/** What plants or a pond need in a day, and how that is found. */
export function OtherTold({ report }: { report: OtherDemand | undefined }) {
  const system = usePreferences((state) => state.system);
  return (
    report && (
      <Typography component="p" data-testid={`other-${report.id}`}>
        <strong>{quantityText({ value: report.daily_l, unit: "L/d" }, system)}</strong>{" "}
        <Typography component="span" variant="caption" color="text.secondary">
          <Said words={report.how_words} />
        </Typography>
      </Typography>
    )
  );
}
