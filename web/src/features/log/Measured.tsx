import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Table from "@mui/material/Table";
import TableBody from "@mui/material/TableBody";
import TableCell from "@mui/material/TableCell";
import TableHead from "@mui/material/TableHead";
import TableRow from "@mui/material/TableRow";
import Typography from "@mui/material/Typography";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";

import { calibrate } from "../../api/field";
import { createOnce } from "../../api/once";
import type { Calibration, CalibrationReading, Design, Explanation } from "../../api/types";
import { ink } from "../../app/theme";
import { useQueue } from "../../shared/logQueue";
import { patched } from "../../shared/patched";
import { usePreferences } from "../../shared/preferences";
import { QueueTold } from "../../shared/QueueTold";
import { saidText } from "../../shared/saidText";
import { quantityText } from "../../shared/units";
import { useKept } from "../../shared/useKept";
import { useSettled } from "../../shared/useSettled";
import type { LogProps } from "./Entries";
import { ReadingForm } from "./ReadingForm";

const DRAWING = { alone: "the others shut", all: "all running", none: "all shut" } as const;
const LONGEST_NAME = 100;
const WIDE = { display: { xs: "none", md: "table-cell" } } as const; // on a phone there is no room
const OFF = 2; // standard errors from the plan: marked

/** The plan held against what was read on the line: what is off, how surely, and what to read next. */
export function Measured({ designId, document, onShow }: LogProps) {
  const { system } = usePreferences();
  const taken = useQueue((queue) => queue.taken);
  const told = useKept(
    useSettled(["calibration", designId, taken], document, document, (asked: Design, signal) =>
      calibrate(designId, asked, signal),
    ),
  );
  return (
    <Box component="section" aria-label="Measured" sx={{ maxWidth: 760 }}>
      <Box sx={{ p: 4 }}>
        <Typography variant="h1">Measured on the line</Typography>
        <ReadingForm designId={designId} document={document} />
        {told && told.readings.length === 0 && (
          <Typography>
            Nothing is read yet. Time a pail at an outlet, or read a gauge with all shut: two or three
            readings say a good deal.
          </Typography>
        )}
        {told && told.explanations.length > 0 && <Suspects told={told} document={document} onShow={onShow} />}
        {told && told.readings.length > 0 && <Readings readings={told.readings} />}
        {told && told.levels.length > 0 && (
          <Typography sx={{ mt: 2, color: ink("faint") }}>
            {told.levels
              .map(
                (one) =>
                  `${one.name} stood at ${quantityText({ value: one.level_m, unit: "m" }, system)}${one.read ? "" : ", as in the plan: not read"}`,
              )
              .join("; ")}
            .
          </Typography>
        )}
      </Box>
      <QueueTold designId={designId} />
    </Box>
  );
}

function Readings({ readings }: { readings: CalibrationReading[] }) {
  const { system } = usePreferences();
  const text = (one: CalibrationReading, value: number | null | undefined) =>
    value == null
      ? "–"
      : quantityText({ value, unit: one.kind === "flow" ? "L/min" : "kPa", digits: 1 }, system);
  const off = (one: CalibrationReading) =>
    one.planned != null &&
    Math.abs(one.measured - one.planned) > OFF * Math.hypot(one.error, one.planned_error ?? 0);
  return (
    <Box sx={{ overflowX: "auto", mt: 4 }}>
      <Table size="small" aria-label="Readings" sx={{ "& td, & th": { px: { xs: 1, md: 4 } } }}>
        <TableHead>
          <TableRow>
            <TableCell>Where</TableCell>
            <TableCell align="right">Read</TableCell>
            <TableCell align="right">Planned</TableCell>
            <TableCell align="right" sx={WIDE}>
              If that is it
            </TableCell>
          </TableRow>
        </TableHead>
        <TableBody>
          {readings.map((one) => (
            <TableRow key={`${one.kind} ${one.part} ${one.drawing}`}>
              <TableCell>
                {one.name}, {DRAWING[one.drawing]}
                {one.count > 1 && `, mean of ${one.count}`}
              </TableCell>
              <TableCell align="right">
                {text(one, one.measured)} <Box sx={{ color: ink("faint") }}>± {text(one, one.error)}</Box>
              </TableCell>
              <TableCell align="right" sx={off(one) ? { color: ink("short"), fontWeight: 700 } : undefined}>
                {one.planned == null ? "not compared: no full pipe" : text(one, one.planned)}
                {off(one) && " ■"}
              </TableCell>
              <TableCell align="right" sx={WIDE}>
                {text(one, one.explained)}
              </TableCell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Box>
  );
}

function Suspects({
  told,
  document,
  onShow,
}: {
  told: Calibration;
  document: Design;
  onShow: (id: string) => void;
}) {
  const { system } = usePreferences();
  const queries = useQueryClient();
  const navigate = useNavigate();
  const copy = useMutation({
    mutationFn: (one: Explanation) =>
      createOnce({
        ...patched(document, one.patch),
        name: `${document.name.slice(0, LONGEST_NAME)} (as measured)`,
      }),
    onSuccess: (revision) => {
      void queries.invalidateQueries({ queryKey: ["designs"] });
      void navigate(`/designs/${revision.design_id}/lines`);
    },
  });
  return (
    <Box sx={{ bgcolor: ink("rail"), p: 3 }} data-testid="suspects">
      <Typography variant="h2">What is off</Typography>
      <Box component="ol" sx={{ listStyle: "none", pl: 0, my: 0 }}>
        {told.explanations.map((one, number) => (
          <Box component="li" key={`${one.kind} ${one.part ?? ""}`} sx={{ mt: 3 }}>
            <Box sx={{ fontWeight: number === 0 ? 700 : 400 }}>{saidText(one.told, system)}</Box>
            <Box sx={{ display: "flex", alignItems: "center", gap: 3 }}>
              <Box aria-hidden sx={{ flex: 1, maxWidth: 320, height: 12, bgcolor: ink("rule") }}>
                <Box sx={{ width: `${100 * one.sure}%`, height: "100%", bgcolor: ink("deep") }} />
              </Box>
              <span>
                {Math.round(100 * one.sure)} %, {one.sure_words}
              </span>
            </Box>
            {one.look_at.length > 0 && (
              <Box>
                In it:{" "}
                {one.look_at
                  .map(
                    ({ name, at_m }) =>
                      `${name} at ${quantityText({ value: at_m, unit: "m", digits: 0 }, system)}`,
                  )
                  .join(", ")}
                .
              </Box>
            )}
            {number === 0 && one.part && (
              <Box sx={{ display: "flex", flexWrap: "wrap", gap: 2, mt: 1 }}>
                <Button variant="outlined" onClick={() => onShow(one.part ?? "")}>
                  Show it on the plan
                </Button>
                {one.patch.length > 0 && (
                  <Button variant="outlined" disabled={copy.isPending} onClick={() => copy.mutate(one)}>
                    Make a copy of the plan like this
                  </Button>
                )}
              </Box>
            )}
          </Box>
        ))}
      </Box>
      {!told.fits && (
        <Typography sx={{ mt: 3, fontWeight: 700 }}>
          No single part explains all readings: two things may be off, or a reading is wrong. Read again what
          fits worst.
        </Typography>
      )}
      {told.next.length > 0 && (
        <Typography sx={{ mt: 3 }} data-testid="next-reading">
          <strong>Next:</strong> {saidText(told.next, system)}
        </Typography>
      )}
      {copy.error && <Typography role="alert">{copy.error.message}</Typography>}
    </Box>
  );
}
