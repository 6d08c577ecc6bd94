import Alert from "@mui/material/Alert";
import Box from "@mui/material/Box";
import Button from "@mui/material/Button";

import { useShallow } from "zustand/react/shallow";

import type { Design } from "../../api/types";
import { ink } from "../../app/theme";
import { StandingMark } from "../../shared/StandingMark";
import { differences, DifferenceTable } from "../revisions";
import { placeOf } from "./model";
import { useBench } from "./store";
import type { Judged } from "./useAnalysis";

/** Over the foot of the view: nothing below or above it moves when it comes and goes. */
const OVER = {
  gridArea: "main",
  alignSelf: "end",
  position: { xs: "sticky", md: "static" },
  bottom: 0,
  zIndex: 5,
  minWidth: 0,
  maxHeight: "70vh",
  overflowY: "auto",
  boxShadow: "0 -2px 8px rgb(0 0 0 / 0.15)",
} as const;

const QUIET = { bgcolor: ink("sheet"), color: ink("ink"), borderBottom: `1px solid ${ink("rule")}` };

/** What makes a plan slow to calculate, and that work goes on. */
function slowText(document: Design, known: boolean): string {
  const lines = document.lines ?? [];
  const [most] = [...lines].sort((a, b) => (b.points?.length ?? 0) - (a.points?.length ?? 0));
  const points = lines.reduce((sum, line) => sum + (line.points?.length ?? 0), 0);
  const named = most?.points?.length ? `, ${most.points.length} of them on ${most.name ?? most.id}` : "";
  return (
    `Calculating … This plan takes long: ${lines.length} ${lines.length === 1 ? "pipe" : "pipes"} with ${points} surveyed points${named}. ` +
    (known ? "The numbers are the last valid ones; " : "") +
    "you can go on editing and undo."
  );
}

/** What stands between the edit and its being kept or judged, with what to do about it. */
export function Notices({ judged, document }: { judged: Judged; document: Design }) {
  const { saving, open, rebase, trial, keepTrial, dropTrial, pending, notes, dropNotes } = useBench(
    useShallow(({ saving, open, rebase, trial, keepTrial, dropTrial, pending, notes, dropNotes }) => ({
      pending,
      notes,
      dropNotes,
      saving,
      open,
      rebase,
      trial,
      keepTrial,
      dropTrial,
    })),
  );
  const elsewhere =
    judged.faults.length > 0 ? judged.faults : saving.state === "refused" ? saving.faults : [];
  return (
    <Box sx={OVER}>
      {trial && (
        <Alert
          severity="info"
          square
          data-testid="trial"
          icon={<StandingMark standing="watch" size={14} />}
          sx={QUIET}
          action={
            <>
              <Button variant="contained" onClick={keepTrial}>
                Keep
              </Button>
              <Button sx={{ ml: 2 }} onClick={dropTrial}>
                Revert
              </Button>
            </>
          }
        >
          Trying: {trial.texts.join("; ")}. The numbers are with it; nothing is saved until you keep it.
        </Alert>
      )}
      {judged.slow && (
        <Alert
          severity="info"
          square
          data-testid="slow"
          icon={<StandingMark standing="unknown" size={14} />}
          sx={QUIET}
        >
          {slowText(document, judged.analysis !== null)}
        </Alert>
      )}
      {pending?.why && (
        <Alert severity="warning" square>
          {pending.why} Your last change is kept here and is applied as soon as the server answers.
        </Alert>
      )}
      {notes.length > 0 && (
        <Alert
          severity="info"
          square
          onClose={dropNotes}
          data-testid="notes"
          icon={<StandingMark standing="watch" size={14} />}
          sx={QUIET}
        >
          {notes.join(" ")}
        </Alert>
      )}
      {elsewhere.length > 0 && (
        <Alert severity="warning" square>
          {judged.analysis ? "The numbers shown are the last valid values. " : "There are no numbers yet. "}
          {elsewhere.slice(0, 3).map((fault) => {
            const place = placeOf(fault.path, document);
            return (
              <span key={fault.path}>
                {place ? (
                  <>
                    <strong>{place}</strong>: found{" "}
                  </>
                ) : (
                  "Found "
                )}
                {fault.value}; allowed: {fault.limit}.{" "}
              </span>
            );
          })}
        </Alert>
      )}
      {judged.trouble && elsewhere.length === 0 && (
        <Alert severity="warning" square>
          {judged.trouble}{" "}
          {judged.analysis && "The numbers shown are the last valid values; your changes are kept here."}
        </Alert>
      )}
      {saving.state === "failed" && (
        <Alert severity="warning" square>
          Not saved: {saving.why} Your changes are kept in this page and are sent again by themselves; do not
          close it.
        </Alert>
      )}
      {saving.state === "conflict" && (
        <Alert
          severity="warning"
          square
          action={
            <>
              <Button color="inherit" onClick={() => rebase(saving.conflict.head.number)}>
                Keep mine
              </Button>
              <Button color="inherit" onClick={() => open(saving.conflict.head)}>
                Use theirs
              </Button>
            </>
          }
        >
          This plan was saved elsewhere as revision {saving.conflict.head.number}
          {saving.conflict.head.saved_by ? ` by ${saving.conflict.head.saved_by}` : ""}. Yours is kept as
          revision {saving.conflict.kept_as}; nothing is lost. Which one do you want to continue with?
          <details open>
            <summary>Differences</summary>
            <DifferenceTable
              rows={differences(saving.conflict.head.document, document)}
              before="Theirs"
              after="Yours"
            />
          </details>
        </Alert>
      )}
    </Box>
  );
}
