import Box from "@mui/material/Box";
import Typography from "@mui/material/Typography";

import type { Design, Measuring } from "../../api/types";
import { ink } from "../../app/theme";
import { troughName } from "../../shared/names";
import { PictureTable } from "../../shared/PictureTable";
import { usePreferences } from "../../shared/preferences";
import { StandingMark } from "../../shared/StandingMark";
import { quantityText } from "../../shared/units";
import { nextSentence, readingName } from "./model";

interface Props {
  document: Design;
  measuring: Measuring | null;
}

/** What to measure next: the reading on which an answer turns, and how much each would narrow it. */
export function NextReadings({ document, measuring }: Props) {
  const system = usePreferences((state) => state.system);
  const flow = (value: number) => quantityText({ value, unit: "L/min" }, system);
  const next = measuring?.next ?? [];
  const turning = next.filter((one) => one.turns);
  return (
    <Box
      component="section"
      aria-label="What to measure next"
      sx={{ border: `1px solid ${ink("rule")}`, bgcolor: ink("sheet"), p: 3, my: 3 }}
    >
      <Typography variant="h2">What to measure next</Typography>
      <Typography component="p" data-testid="next-reading">
        {measuring ? (
          <>
            <StandingMark standing={turning.length ? "watch" : "fine"} size={11} />{" "}
            {nextSentence(document, next)}
          </>
        ) : (
          "Calculating …"
        )}
      </Typography>
      {next.length > 0 && (
        <PictureTable
          title="Every reading and what it would narrow,"
          head={["Reading", "Outlet", "Gets now", "About, after it", "Wanted", ""]}
          rows={next.map((one) => [
            `${readingName(document, one)}${one.stated ? "" : " (accuracy unknown)"}`,
            troughName(document, one.outlet),
            `${flow(one.before_lpm[0])} to ${flow(one.before_lpm[1])}`,
            `${flow(one.after_lpm[0])} to ${flow(one.after_lpm[1])}`,
            one.limit_lpm ? flow(one.limit_lpm) : "any",
            one.settles ? "settles it" : one.turns ? "narrows it" : "good enough already",
          ])}
        />
      )}
    </Box>
  );
}
