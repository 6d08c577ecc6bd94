import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useQuery, useQueryClient } from "@tanstack/react-query";
import { Fragment, useState } from "react";
import { useParams } from "react-router";

import type { DayRun, Design, FailureSurvey, Remedy } from "../../api/types";
import { ink } from "../../app/theme";
import { durationText } from "../../shared/duration";
import { Caution } from "../../shared/Caution";
import { nameOfPart } from "../../shared/names";
import { numberOf } from "../../shared/numbered";
import { usePreferences } from "../../shared/preferences";
import { priceText } from "../../shared/price";
import { saidText } from "../../shared/saidText";
import { quantityText } from "../../shared/units";
import { longRun } from "../../shared/longRun";
import { HOUR_S } from "./model";

interface Props {
  document: Design;
  run: DayRun;
  onTry: (measure: Pick<Remedy, "patch" | "text_words">) => void;
}

const FEW = 6;

const FAILS: Record<string, string> = {
  stuck_open: "sticks open",
  hose_off: "comes off",
  check_valve_failed: "lets water back",
};

/** What each failure would cost until the next look, worst first, with what would help; and what each drinker holds. */
export function Failures({ document, run, onTry }: Props) {
  const system = usePreferences((state) => state.system);
  const { designId = null } = useParams();
  const client = useQueryClient();
  const [progress, setProgress] = useState(0);
  const [all, setAll] = useState(false);
  const queryKey = ["failures", numberOf(document)];
  const asked = useQuery({
    queryKey,
    queryFn: async ({ signal }): Promise<FailureSurvey> => {
      setProgress(0);
      const job = await longRun({ kind: "failures", document }, designId, signal, setProgress);
      if (!job.failures) throw new Error("The survey brought no answer.");
      return job.failures;
    },
    enabled: false,
    networkMode: "always",
    staleTime: Infinity,
    gcTime: 300_000,
    retry: false,
  });
  const survey = asked.data ?? null;
  const litres = (value: number) => quantityText({ value, unit: "L" }, system);
  const failures = survey?.failures ?? [];
  return (
    <Box sx={{ mt: 5 }} data-testid="day-failures">
      <Typography variant="h2">If it fails, worst first</Typography>
      {asked.isFetching ? (
        <Box sx={{ display: "flex", gap: 3, alignItems: "center", my: 2 }} role="status">
          Calculating … {Math.round(100 * progress)} %
          <Button variant="outlined" onClick={() => void client.cancelQueries({ queryKey })}>
            Cancel
          </Button>
        </Box>
      ) : (
        !survey && (
          <>
            <Typography sx={{ my: 1, color: ink("faint") }}>
              Each valve stuck open and each line off, until the next look.
            </Typography>
            <Button variant="outlined" onClick={() => void asked.refetch()}>
              Run the survey
            </Button>
          </>
        )
      )}
      {asked.error && <Typography role="alert">{asked.error.message}</Typography>}
      {survey && (
        <Box component="table" sx={TABLE}>
          <thead>
            <tr>
              <th scope="col">What fails</th>
              <th scope="col">lost in {Math.round(survey.look_s / HOUR_S)} h</th>
              <th scope="col">dry after</th>
            </tr>
          </thead>
          <tbody>
            {failures.slice(0, all ? undefined : FEW).map((one) => (
              <Fragment key={`${one.kind} ${one.where}`}>
                <tr>
                  <th scope="row">
                    {nameOfPart(document, one.where)} {FAILS[one.kind]}
                  </th>
                  <td>{litres(one.cost.lost_l)}</td>
                  <td>{one.cost.dry_s === null ? "–" : durationText(one.cost.dry_s)}</td>
                </tr>
                {(one.cost.short.length > 0 || one.measures.length > 0) && (
                  <tr className="more">
                    <td colSpan={3}>
                      {one.cost.short.length > 0 && (
                        <Box sx={{ color: ink("short") }}>
                          short of water: {one.cost.short.map((id) => nameOfPart(document, id)).join(", ")}
                        </Box>
                      )}
                      {one.measures.map((measure, index) => (
                        <Box key={index}>
                          {saidText(measure.told, system)}
                          {measure.price !== null &&
                            `, ${priceText(measure.price, document.site.currency ?? "USD")}`}
                          : loses {litres(measure.cost.lost_l)}
                          {measure.cost.animal_hours < 0.5 &&
                            one.cost.animal_hours >= 0.5 &&
                            ", nobody goes without"}
                          {measure.patch.length > 0 && (
                            <Button
                              sx={{ p: 0, ml: 2, minHeight: { xs: 44, md: 24 } }}
                              onClick={() => onTry({ patch: measure.patch, text_words: measure.told })}
                            >
                              Try it
                            </Button>
                          )}
                        </Box>
                      ))}
                    </td>
                  </tr>
                )}
              </Fragment>
            ))}
          </tbody>
        </Box>
      )}
      {!all && failures.length > FEW && (
        <Button sx={{ p: 0 }} onClick={() => setAll(true)}>
          Show all {failures.length}
        </Button>
      )}
      {survey && (
        <Typography sx={{ my: 2 }} data-testid="no-refill">
          With no source at all{" "}
          {survey.no_refill_s === null
            ? "nobody goes without for a fortnight."
            : `${nameOfPart(document, survey.no_refill_where ?? "")} is the first without water, after ${durationText(survey.no_refill_s)}.`}
        </Typography>
      )}
      {survey && survey.left_out > 0 && (
        <Typography sx={{ color: ink("faint") }}>
          {survey.left_out} more were not run: the plan is large.
        </Typography>
      )}
      {(run.reserves ?? []).length > 0 && (
        <>
          <Typography variant="h2" sx={{ mt: 5 }}>
            Reserve when the line breaks
          </Typography>
          <Box component="table" sx={TABLE}>
            <thead>
              <tr>
                <th scope="col">Drinker</th>
                <th scope="col">holds</th>
                <th scope="col">lasts</th>
              </tr>
            </thead>
            <tbody>
              {(run.reserves ?? []).map((one) => (
                <tr key={one.vessel}>
                  <th scope="row">
                    {nameOfPart(document, one.vessel)}
                    <Box component="span" sx={{ color: ink("faint"), display: "block" }}>
                      {one.herds.map((id) => nameOfPart(document, id)).join(", ")}
                    </Box>
                  </th>
                  <td>{litres(one.held_l)}</td>
                  <td>{one.days < 1 ? `${(24 * one.days).toFixed(0)} h` : `${one.days.toFixed(1)} d`}</td>
                </tr>
              ))}
            </tbody>
          </Box>
          <Caution>
            Animals die within days without water: keep two independent days in hand, and look daily.
          </Caution>
        </>
      )}
    </Box>
  );
}

const TABLE = {
  borderCollapse: "collapse",
  width: "100%",
  my: 1,
  fontSize: 14,
  "& th, & td": {
    textAlign: "right",
    fontWeight: 400,
    py: 1,
    pl: 3,
    verticalAlign: "top",
    whiteSpace: "nowrap",
  },
  "& thead th": { color: ink("faint") },
  "& th:first-of-type": { textAlign: "left", pl: 0, whiteSpace: "normal" },
  "& tbody tr:not(.more)": { borderTop: `1px solid ${ink("rule")}` },
  "& .more td": { textAlign: "left", whiteSpace: "normal", color: ink("faint"), pl: 0, pt: 0 },
} as const;
