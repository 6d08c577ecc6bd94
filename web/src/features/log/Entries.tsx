import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import TextField from "@mui/material/TextField";
import Typography from "@mui/material/Typography";
import { useId, useState } from "react";
import { useSearchParams } from "react-router";

import { logTableAddress } from "../../api/field";
import type { Design, LogEntry } from "../../api/types";
import { ink } from "../../app/theme";
import { Choice } from "../../shared/Choice";
import { note } from "../../shared/logQueue";
import { nameOfPart } from "../../shared/names";
import { newEntry } from "../../shared/newEntry";
import { PhotoNote } from "../../shared/PhotoNote";
import { PhotoShown } from "../../shared/PhotoShown";
import { usePreferences } from "../../shared/preferences";
import { QueueTold } from "../../shared/QueueTold";
import { useLog } from "../../shared/useLog";
import { LookFindings } from "./LookFindings";
import { entryText, whenText } from "./entryText";

export interface LogProps {
  designId: string;
  document: Design;
  onShow: (id: string) => void;
}

const ALL = "";
const FEW = 60;
const LONGEST = 2_000;

/** What was seen, measured, moved and mended on the real line, newest first; what is noted here is never changed. */
export function Entries({ designId, document, onShow }: LogProps) {
  const { system, name: who, setName } = usePreferences();
  const { entries, waiting, reached } = useLog(designId);
  const id = useId();
  const [asked] = useSearchParams();
  const [part, setPart] = useState(asked.get("about") ?? ALL);
  const [said, setSaid] = useState("");
  const [corrects, setCorrects] = useState<LogEntry | null>(null);
  const [all, setAll] = useState(false);
  const parts = [...(document.vessels ?? []), ...(document.outlets ?? []), ...(document.lines ?? [])];
  const shown = entries.filter((entry) => part === ALL || entry.part === part);
  const corrected = new Set(entries.map((entry) => entry.corrects).filter(Boolean));
  const keep = async () => {
    const of = corrects?.part ?? (part || null);
    await note(
      designId,
      newEntry(
        {
          kind: "note",
          said,
          part: of,
          part_name: of && nameOfPart(document, of),
          corrects: corrects?.id ?? null,
        },
        who,
      ),
    );
    setSaid("");
    setCorrects(null);
  };
  return (
    <Box component="section" aria-label="Entries of the log" sx={{ maxWidth: 760 }}>
      <Box sx={{ p: 4 }}>
        <Typography variant="h1">Log</Typography>
        <LookFindings designId={designId} document={document} />
        <Box sx={{ display: "flex", flexWrap: "wrap", gap: 3, my: 3, alignItems: "flex-end" }}>
          <Box sx={{ width: 240 }}>
            <Choice
              label="About"
              value={part}
              options={[
                { value: ALL, text: "all of the plan" },
                ...parts.map(({ id }) => ({ value: id, text: nameOfPart(document, id) })),
              ]}
              onChange={setPart}
            />
          </Box>
          <TextField
            id={`${id}-who`}
            label="Who notes"
            value={who}
            size="small"
            variant="standard"
            onChange={(event) => setName(event.target.value.slice(0, 60))}
            slotProps={{ inputLabel: { shrink: true } }}
          />
          <Button component="a" href={logTableAddress(designId)} download="log.csv">
            Download CSV
          </Button>
        </Box>
        <TextField
          id={`${id}-said`}
          label={corrects ? `Corrects: ${entryText(corrects, system)}` : "What you see"}
          value={said}
          multiline
          minRows={2}
          fullWidth
          onChange={(event) => setSaid(event.target.value.slice(0, LONGEST))}
          slotProps={{ inputLabel: { shrink: true } }}
        />
        <Box sx={{ display: "flex", gap: 2, mt: 2 }}>
          <Button
            variant="contained"
            sx={{ minHeight: 48, px: 4 }}
            disabled={!said.trim()}
            onClick={() => void keep()}
          >
            Note it
          </Button>
          {corrects && <Button onClick={() => setCorrects(null)}>Cancel</Button>}
        </Box>
        <PhotoNote
          designId={designId}
          about={{ part: part || null, part_name: part ? nameOfPart(document, part) : null }}
        />
        {!reached && (
          <Typography role="status" sx={{ mt: 2, color: ink("little") }}>
            No connection: the log shows what waits on this device, and what was read before.
          </Typography>
        )}
        {shown.length === 0 && <Typography sx={{ mt: 3 }}>Nothing is noted yet.</Typography>}
        <Box component="ol" aria-label="Entries" sx={{ listStyle: "none", pl: 0, mt: 3 }}>
          {shown.slice(0, all ? undefined : FEW).map((entry) => (
            <Box
              component="li"
              key={entry.id}
              data-testid={`entry-${entry.id}`}
              sx={{ borderTop: `1px solid ${ink("rule")}`, py: 2 }}
            >
              <Box sx={{ color: ink("faint"), fontSize: 13 }}>
                {whenText(entry)}
                {entry.who && ` · ${entry.who}`}
                {waiting.has(entry.id) && <strong> · waits on this device</strong>}
                {entry.corrects && <strong> · corrects an earlier entry</strong>}
                {corrected.has(entry.id) && <strong> · corrected later</strong>}
              </Box>
              <Box sx={corrected.has(entry.id) ? { textDecoration: "line-through" } : undefined}>
                {entryText(entry, system)}
              </Box>
              <PhotoShown designId={designId} entry={entry} />
              {entry.part && parts.some(({ id }) => id === entry.part) ? (
                <Button sx={{ p: 0, minHeight: { xs: 44, md: 24 } }} onClick={() => onShow(entry.part ?? "")}>
                  {nameOfPart(document, entry.part)}
                </Button>
              ) : (
                entry.part && <span>{entry.part_name ?? entry.part}, no longer on the plan</span>
              )}{" "}
              <Button sx={{ p: 0, minHeight: { xs: 44, md: 24 } }} onClick={() => setCorrects(entry)}>
                Correct it
              </Button>
            </Box>
          ))}
        </Box>
        {shown.length > FEW && !all && <Button onClick={() => setAll(true)}>Show all {shown.length}</Button>}
      </Box>
      <QueueTold designId={designId} />
    </Box>
  );
}
