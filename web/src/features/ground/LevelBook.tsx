import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { BookReport, Design, Fault, LevelBook as Book, StaffReading } from "../../api/types";
import { ink } from "../../app/theme";
import { deleted, useEdits } from "../../shared/edits";
import { Choice } from "../../shared/Choice";
import { faultAt } from "../../shared/faults";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { StandingMark } from "../../shared/StandingMark";
import { figure, shownUnit, toShown } from "../../shared/units";
import { BookPicture } from "./BookPicture";
import { FieldEntry } from "./FieldEntry";
import { asSight, errorOf, sightOf, heightsTaken, SIGHTS, type SightKind } from "./model";
import { NewReading } from "./NewReading";
import { Cross, DeleteButton } from "../../shared/DeleteButton";

interface Props {
  document: Design;
  book: Book;
  index: number;
  report: BookReport | undefined;
  faults: Fault[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
}

const NAMES = { back_m: "Backsight", fore_m: "Foresight", mid_m: "Intermediate sight" } as const;
/** The usual allowance of ordinary levelling, 12 mm × √km, in metres and in feet. */
const ALLOWANCE = { m: "12 mm × √km", ft: "0.05 ft × √mile" } as const;
const ROW = {
  display: "grid",
  gridTemplateColumns: { xs: "1fr 1fr", md: "minmax(120px, 1fr) 152px 90px 90px 90px 90px 28px" },
  columnGap: 3,
  alignItems: "end",
  mb: 1,
} as const;

/** One level book: readings as they are typed, the levels beside them, the misclosure, and what may explain it. */
export function LevelBook({ document, book, index, report, faults, edit, onDone }: Props) {
  const { apply } = useEdits();
  const system = usePreferences((state) => state.system);
  const [inField, setInField] = useState(false);
  const [adding, setAdding] = useState(false);
  /** the reading that is to be a turning point once its backsight is read */
  const [turning, setTurning] = useState<number | null>(null);
  const path = `/books/${index}`;
  const readings = book.readings ?? [];
  const last = readings.at(-1);
  const metres = (value: number | null | undefined) =>
    value == null ? "" : figure(toShown(value, "m", system), 3);
  const unit = shownUnit("m", system);
  const put = (key: string, at: number, recipe: (reading: StaffReading) => StaffReading) =>
    edit(`book${index}.${at}.${key}`, (draft) => {
      const own = draft.books?.[index]?.readings;
      if (own?.[at]) own[at] = recipe(own[at]);
    });
  const missed = report?.misclosure_m ?? null;
  const within = report?.allowed_m == null || missed === null ? null : Math.abs(missed) <= report.allowed_m;
  const levelled = readings.some((one, at) => at > 0 && one.place && one.place !== readings[0]?.place);
  return (
    <Box
      component="section"
      aria-label={book.name ?? book.id}
      sx={{ borderTop: `1px solid ${ink("rule")}`, py: 3 }}
    >
      <Box sx={{ display: "flex", justifyContent: "space-between" }}>
        <Typography variant="h2">{book.name ?? book.id}</Typography>
        <DeleteButton
          onClick={() => {
            apply("book.deleted", deleted(document.books?.[index]?.id));
            onDone();
          }}
        />
      </Box>
      {faultAt(faults, path) && (
        <Typography role="alert" color="error">
          {faultAt(faults, path)}
        </Typography>
      )}
      {report && readings.length > 0 && <BookPicture {...{ document, book, report }} />}
      {inField && (
        <FieldEntry
          {...{ document, book, report }}
          onReadings={(next) => {
            edit("book.field", (draft) => {
              const own = draft.books?.[index];
              if (own) own.readings = next;
            });
            onDone();
          }}
          onClose={() => setInField(false)}
        />
      )}
      {readings.map((reading, at) => {
        const sight = turning === at ? "moves" : sightOf(reading);
        const point = report?.points[at];
        return (
          <Box
            key={at}
            role="group"
            aria-label={`Reading ${at + 1}`}
            data-suspect={isSuspect(report, at)}
            sx={isSuspect(report, at) ? { ...ROW, borderLeft: `4px solid ${ink("little")}`, pl: 1 } : ROW}
          >
            <Choice
              label={`Point ${at + 1}`}
              value={reading.place ?? ""}
              options={[
                { value: "", text: reading.name ?? "somewhere between" },
                ...document.places.map((place) => ({ value: place.id, text: place.name ?? place.id })),
              ]}
              onChange={(value) => {
                put("place", at, (own) => ({ ...own, place: value || null }));
                onDone();
              }}
            />
            {at === 0 ? (
              <span style={{ fontSize: 13 }}>known height</span>
            ) : (
              <Choice
                label={`Sight ${at + 1}`}
                value={sight}
                options={SIGHTS}
                onChange={(value) => {
                  const other = asSight(reading, value as SightKind);
                  setTurning(other ? null : at);
                  if (!other) return;
                  put("sight", at, () => other);
                  onDone();
                }}
              />
            )}
            {(["fore_m", "mid_m", "back_m"] as const).map((key) =>
              reading[key] == null && !(key === "back_m" && turning === at) ? (
                key === "mid_m" || (key === "fore_m" && sight === "between") ? null : (
                  <span key={key} />
                )
              ) : (
                <QuantityField
                  key={key}
                  label={`${NAMES[key]} ${at + 1}`}
                  family="m"
                  digits={3}
                  value={reading[key] ?? null}
                  fault={faultAt(faults, `${path}/readings/${at}/${key}`)}
                  onDone={onDone}
                  onChange={(value) => {
                    if (turning !== at) put(key, at, (own) => ({ ...own, [key]: value }));
                    else put(key, at, (own) => asSight(own, "moves", value) ?? own);
                  }}
                />
              ),
            )}
            <span style={{ textAlign: "right", fontSize: 13, color: ink("faint") }}>
              {point?.rise_m == null ? "" : `${point.rise_m >= 0 ? "+" : ""}${metres(point.rise_m)}`}
            </span>
            <strong style={{ textAlign: "right" }} data-testid={`level-${index}-${at}`}>
              {metres(point?.adjusted_m)}
            </strong>
            {at > 0 && (
              <Cross
                label={`Delete reading ${at + 1}`}
                onClick={() => {
                  edit("reading.gone", (draft) => void draft.books?.[index]?.readings?.splice(at, 1));
                  onDone();
                }}
              />
            )}
          </Box>
        );
      })}
      {(adding || readings.length === 0) && (
        <NewReading
          key={readings.length}
          document={document}
          number={readings.length + 1}
          reopens={readings.length > 1 && last !== undefined && sightOf(last) === "last"}
          onAdd={(reading, backsightBefore) => {
            edit("reading.new", (draft) => {
              const own = draft.books?.[index];
              if (!own) return;
              const before = own.readings ?? [];
              const ended = before.at(-1);
              own.readings =
                ended && backsightBefore !== null
                  ? [...before.slice(0, -1), { ...ended, back_m: backsightBefore }, reading]
                  : [...before, reading];
            });
            setAdding(false);
            onDone();
          }}
          onCancel={readings.length === 0 ? null : () => setAdding(false)}
        />
      )}
      <Box sx={{ display: "flex", flexWrap: "wrap", gap: 4, alignItems: "end", my: 2 }}>
        {readings.length > 0 && !adding && (
          <Button variant="outlined" onClick={() => setAdding(true)}>
            Next point
          </Button>
        )}
        <Button variant="outlined" onClick={() => setInField(true)}>
          Big keys for the field
        </Button>
        <Box sx={{ width: 130 }}>
          <QuantityField
            label="Way walked, km"
            family="count"
            digits={2}
            value={book.length_km ?? null}
            hint={book.length_km == null ? "empty: not judged" : undefined}
            fault={faultAt(faults, `${path}/length_km`)}
            onDone={onDone}
            onChange={(value) =>
              edit(`book${index}.km`, (draft) => {
                const own = draft.books?.[index];
                if (own) own.length_km = value;
              })
            }
            onClear={() =>
              edit(`book${index}.km`, (draft) => {
                const own = draft.books?.[index];
                if (own) own.length_km = null;
              })
            }
          />
        </Box>
        {report && levelled && (
          <Button
            variant="outlined"
            onClick={() => {
              apply("book.taken", heightsTaken(book, report, errorOf(report)));
              onDone();
            }}
          >
            Use these heights
          </Button>
        )}
      </Box>
      {report && readings.length > 0 && (
        <Typography component="p" data-testid={`book-told-${index}`}>
          Levels in {unit}. Backsights {metres(report.back_sum_m)}, foresights {metres(report.fore_sum_m)}.{" "}
          {missed === null ? (
            "It does not return to its start: its accuracy is unknown."
          ) : (
            <>
              <StandingMark standing={within === null ? "unknown" : within ? "fine" : "fix"} size={11} /> It
              misses by {metres(missed)} {unit}
              {report.allowed_m !== null &&
                `; ${metres(report.allowed_m)} would pass (${ALLOWANCE[unit === "ft" ? "ft" : "m"]}, ordinary levelling)`}
              . The levels have it shared out over the set-ups.
              {report.slip_m !== null && ` About ${metres(report.slip_m)} ${unit}: was a graduation misread?`}
              {report.jump &&
                ` The levels jump between reading ${report.jump[0] + 1} and reading ${report.jump[1] + 1}: read those again.`}
              {report.suspects.map(
                (one) =>
                  ` Reading ${one.number + 1}: was ${metres(one.meant_m)} read as ${metres(readings[one.number]?.[one.sight as "back_m" | "fore_m"])}?`,
              )}
            </>
          )}
        </Typography>
      )}
    </Box>
  );
}

/** Whether a reading is one of those that may be why the book does not close. */
function isSuspect(report: BookReport | undefined, at: number): boolean {
  if (!report) return false;
  const [first, last] = report.jump ?? [Infinity, -Infinity];
  return report.suspects.some((one) => one.number === at) || (at >= first && at <= last);
}
