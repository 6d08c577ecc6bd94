import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { BookReport, Design, LevelBook, StaffReading } from "../../api/types";
import { ink } from "../../app/theme";
import { Choice } from "../../shared/Choice";
import { usePreferences } from "../../shared/preferences";
import { readNumber } from "../../shared/readNumber";
import { figure, fromShown, shownUnit, toShown } from "../../shared/units";
import { sightOf } from "./model";

interface Props {
  document: Design;
  book: LevelBook;
  report: BookReport | undefined;
  onReadings: (readings: StaffReading[]) => void;
  onClose: () => void;
}

const KEYS = ["7", "8", "9", "4", "5", "6", "1", "2", "3", ".", "0", "⌫"];
const BIG = { minHeight: 56, fontSize: 22, borderColor: ink("rule"), color: ink("ink") } as const;

/** One person in a field: one reading at a time, big keys, the next reading at once. */
export function FieldEntry({ document, book, report, onReadings, onClose }: Props) {
  const system = usePreferences((state) => state.system);
  const [typed, setTyped] = useState("");
  const readings = book.readings ?? [];
  const first = readings.length === 0;
  const [place, setPlace] = useState(first ? (document.places[0]?.id ?? "") : "");
  const [moving, setMoving] = useState(false);
  const unit = shownUnit("m", system);
  const last = readings.at(-1);
  const ended = last && readings.length > 1 && sightOf(last) === "last" && !moving;
  const reading = readNumber(typed);
  const value = reading.kind === "number" ? reading.value : null;
  const read = value === null ? null : fromShown(value, "m", system);
  const level = report?.points.at(-1)?.level_m;
  const next = () => {
    setTyped("");
    setPlace("");
  };
  const add = (kind: "mid_m" | "fore_m" | "back_m") => {
    if (read === null) return;
    onReadings([...readings, { ...(place ? { place } : {}), [kind]: read }]);
    next();
  };
  const back = () => {
    if (read === null || !last) return;
    onReadings([...readings.slice(0, -1), { ...last, back_m: read }]);
    setMoving(false);
    next();
  };
  const press = (key: string) =>
    setTyped((before) => (key === "⌫" ? before.slice(0, -1) : (before + key).slice(0, 8)));
  return (
    <Dialog
      open
      onClose={onClose}
      fullScreen
      aria-labelledby="field-title"
      onKeyDown={(event) => {
        const key = event.key === "Backspace" ? "⌫" : event.key === "," ? "." : event.key;
        if (!ended && KEYS.includes(key)) press(key);
      }}
    >
      <Box sx={{ p: 4, maxWidth: 430, mx: "auto", width: "100%", display: "grid", gap: 3 }}>
        <Box sx={{ display: "flex", justifyContent: "space-between", alignItems: "center" }}>
          <Typography id="field-title" variant="h1">
            {first
              ? "Backsight to a known height"
              : moving
                ? "Backsight to the same point"
                : `Reading ${readings.length + 1}`}
          </Typography>
          <Button onClick={onClose} sx={{ minHeight: 44 }}>
            Close
          </Button>
        </Box>
        {ended && (
          <>
            <Typography component="p" sx={{ fontSize: 18 }}>
              {report?.misclosure_m == null
                ? "The book ends here. It does not return to its start, so its accuracy is unknown."
                : `The book is closed. Misclosure: ${figure(toShown(report.misclosure_m, "m", system), 3)} ${unit}.`}
            </Typography>
            <Button variant="outlined" sx={{ minHeight: 56 }} onClick={() => setMoving(true)}>
              Continue from the last point
            </Button>
          </>
        )}
        <Typography color="text.secondary" aria-live="polite">
          {level === undefined ? "" : `Last point: ${figure(toShown(level, "m", system), 3)} ${unit}.`}
          {moving && " Move the level; leave the staff where it is."}
        </Typography>
        {!ended && (
          <>
            {!moving && (
              <Choice
                label="Staff at"
                value={place}
                options={[
                  { value: "", text: "somewhere between" },
                  ...document.places.map((one) => ({ value: one.id, text: one.name ?? one.id })),
                ]}
                onChange={setPlace}
              />
            )}
            <Box
              data-testid="field-number"
              aria-live="polite"
              sx={{
                fontSize: 44,
                fontWeight: 700,
                textAlign: "right",
                borderBottom: `2px solid ${ink("deep")}`,
                minHeight: 62,
              }}
            >
              {typed || "–"} <span style={{ fontSize: 20, fontWeight: 400 }}>{unit}</span>
            </Box>
            <Box sx={{ display: "grid", gridTemplateColumns: "repeat(3, 1fr)", gap: 2 }}>
              {KEYS.map((key) => (
                <Button
                  key={key}
                  variant="outlined"
                  sx={BIG}
                  aria-label={key === "⌫" ? "Backspace" : key}
                  onClick={() => press(key)}
                >
                  {key}
                </Button>
              ))}
            </Box>
            {moving || first ? (
              <Button
                variant="contained"
                sx={{ minHeight: 56 }}
                disabled={read === null}
                onClick={() => (first ? add("back_m") : back())}
              >
                Backsight, next point
              </Button>
            ) : (
              <Box sx={{ display: "grid", gap: 2 }}>
                <Button
                  variant="contained"
                  sx={{ minHeight: 56 }}
                  disabled={read === null}
                  onClick={() => add("mid_m")}
                >
                  Intermediate sight, next point
                </Button>
                <Box sx={{ display: "grid", gridTemplateColumns: "1fr 1fr", gap: 2 }}>
                  <Button
                    variant="outlined"
                    sx={{ minHeight: 56 }}
                    disabled={read === null}
                    onClick={() => {
                      add("fore_m");
                      setMoving(true);
                    }}
                  >
                    Turning point
                  </Button>
                  <Button
                    variant="outlined"
                    sx={{ minHeight: 56 }}
                    disabled={read === null}
                    onClick={() => {
                      add("fore_m");
                      onClose();
                    }}
                  >
                    Close the book
                  </Button>
                </Box>
              </Box>
            )}
          </>
        )}
      </Box>
    </Dialog>
  );
}
