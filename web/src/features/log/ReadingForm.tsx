import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import { useEffect, useState } from "react";

import type { Design, LogEntry } from "../../api/types";
import { Choice } from "../../shared/Choice";
import { note } from "../../shared/logQueue";
import { nameOfPart } from "../../shared/names";
import { newEntry } from "../../shared/newEntry";
import { OneOf } from "../../shared/OneOf";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { drawingsOf, QUIET, readable, READINGS, type ReadingKind } from "./readings";

const PAIL_L = 20; // to begin with; ours
const TICK_MS = 100;
const BIG = { minHeight: 56, fontSize: 17 } as const;

interface Props {
  designId: string;
  document: Design;
}

/** One reading taken on the line: a pail, a gauge or a dipstick, at which part, while what ran. */
export function ReadingForm({ designId, document }: Props) {
  const who = usePreferences((state) => state.name);
  const [kind, setKind] = useState<ReadingKind>("timing");
  const [part, setPart] = useState("");
  const [drawing, setDrawing] = useState("");
  const [pail, setPail] = useState(PAIL_L);
  const [figure, setFigure] = useState<number | null>(null);
  const parts = readable(document, kind);
  const chosen = parts.includes(part) ? part : (parts[0] ?? "");
  const drawings = drawingsOf(document, kind, chosen);
  const ran = drawings.some(({ value }) => value === drawing) ? drawing : (drawings[0]?.value ?? "");
  const keep = async () => {
    if (figure === null) return;
    const figures: Record<string, number | string | boolean> = { [READINGS[kind].key]: figure };
    if (kind === "timing") figures.volume_l = pail;
    if (ran === QUIET) figures.quiet = true;
    else if (ran && kind !== "level") figures.drawing = ran;
    const told: Pick<LogEntry, "kind"> & Partial<LogEntry> = { kind, part: chosen, figures };
    await note(designId, newEntry({ ...told, part_name: nameOfPart(document, chosen) }, who));
    setFigure(null);
  };
  if (!parts.length && kind === "timing") return <p>No outlet is on the plan yet: nothing can be read.</p>;
  return (
    <Box component="section" aria-label="A reading" sx={{ display: "grid", gap: 3, maxWidth: 460, my: 3 }}>
      <OneOf<ReadingKind>
        name="What is read"
        value={kind}
        options={Object.entries(READINGS).map(([value, { text }]) => ({ value: value as ReadingKind, text }))}
        onChange={(value) => {
          setKind(value);
          setFigure(null);
        }}
      />
      <Choice
        label="At"
        value={chosen}
        options={parts.map((id) => ({ value: id, text: nameOfPart(document, id) }))}
        onChange={setPart}
      />
      {drawings.length > 0 && (
        <Choice label="Meanwhile" value={ran} options={drawings} onChange={setDrawing} />
      )}
      <Box sx={{ display: "flex", gap: 3, alignItems: "flex-end", flexWrap: "wrap" }}>
        {kind === "timing" && (
          <Box sx={{ width: 120 }}>
            <QuantityField label="Your pail" family="L" digits={1} value={pail} onChange={setPail} />
          </Box>
        )}
        <Box sx={{ width: 150 }}>
          <QuantityField
            key={kind}
            label={READINGS[kind].label}
            family={READINGS[kind].family}
            digits={READINGS[kind].digits}
            value={figure}
            onChange={setFigure}
            onClear={() => setFigure(null)}
          />
        </Box>
        {kind === "timing" && <Clock onTimed={setFigure} />}
      </Box>
      <Button
        variant="contained"
        sx={BIG}
        disabled={figure === null || !chosen || (kind === "timing" && !(figure > 0 && pail > 0))}
        onClick={() => void keep()}
      >
        Note the reading
      </Button>
    </Box>
  );
}

/** A stopwatch that types the seconds. */
function Clock({ onTimed }: { onTimed: (seconds: number) => void }) {
  const [begun, setBegun] = useState<number | null>(null);
  const [now, setNow] = useState(0);
  useEffect(() => {
    if (begun === null) return;
    const timer = setInterval(() => setNow(Date.now()), TICK_MS);
    return () => clearInterval(timer);
  }, [begun]);
  const press = () => {
    const time = Date.now();
    if (begun !== null) onTimed(Math.max(0.1, Math.round((time - begun) / 100) / 10));
    setNow(time);
    setBegun(begun === null ? time : null);
  };
  return (
    <Button variant="outlined" sx={{ ...BIG, minWidth: 130 }} onClick={press}>
      {begun === null ? "Start" : `${(Math.max(0, now - begun) / 1000).toFixed(1)} s · stop`}
    </Button>
  );
}
