import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import Typography from "@mui/material/Typography";
import { useId } from "react";

import type { Design, DesignEdit, Fault } from "../../api/types";
import { ink } from "../../app/theme";
import { Choice } from "../../shared/Choice";
import { useEdits } from "../../shared/edits";
import { shownCase } from "../../shared/shownCase";
import { CaseSheet } from "./CaseSheet";

type NewCase = Extract<DesignEdit, { kind: "add_case" }>["case"];

const KINDS: { value: NewCase; text: string }[] = [
  { value: "ordinary day", text: "Ordinary day" },
  { value: "hot spell", text: "Hot spell" },
  { value: "winter day", text: "Winter day" },
  { value: "source lost", text: "Source lost" },
  { value: "valve stuck", text: "Valve stuck open" },
];

interface Props {
  document: Design;
  faults: Fault[];
  /** why an edit was refused */
  notes: string[];
  edit: (key: string, recipe: (draft: Design) => void) => void;
  onDone: () => void;
  onLeave: () => void;
}

/** The cases that a plan is judged for: added, copied, renamed, deleted, and what each assumes. */
export function CasesDialog({ document, faults, notes, edit, onDone, onLeave }: Props) {
  const title = useId();
  const { apply } = useEdits();
  const cases = document.scenarios ?? [];
  const shown = shownCase(document);
  const now = cases[shown];
  const make = (edits: DesignEdit[]) => {
    apply("cases", edits);
    onDone();
  };
  return (
    <Dialog open onClose={onLeave} aria-labelledby={title} maxWidth="md" fullWidth>
      <Box sx={{ p: { xs: 3, md: 5 }, display: "grid", gap: 3 }}>
        <Typography id={title} variant="h1">
          Cases
        </Typography>
        <Typography color="text.secondary">
          A case is what is assumed when the plan is judged: how hot it is, the day, what fails, what is open
          or shut. The numbers of the whole plan are for the case that is chosen here.
        </Typography>
        {notes.length > 0 && <Typography role="alert">{notes.join(" ")}</Typography>}
        <Box sx={{ display: "grid", gridTemplateColumns: { xs: "1fr", md: "220px 1fr" }, gap: 4 }}>
          <Box>
            <Box role="radiogroup" aria-label="Case" sx={{ display: "grid", gap: 1, mb: 3 }}>
              {cases.map((one, index) => (
                <label
                  key={one.id}
                  style={{
                    display: "flex",
                    gap: 8,
                    alignItems: "center",
                    minHeight: 32,
                    padding: "0 8px",
                    background: index === shown ? ink("rail") : "transparent",
                    fontWeight: index === shown ? 700 : 400,
                  }}
                >
                  <input
                    type="radio"
                    name="case"
                    checked={index === shown}
                    onChange={() => {
                      edit("shown-for", (draft) => void (draft.shown_for = one.id));
                      onDone();
                    }}
                  />
                  {one.name ?? one.id}
                </label>
              ))}
            </Box>
            <Choice
              label="Add a case"
              value=""
              options={[{ value: "", text: "choose …" }, ...KINDS]}
              hint="starts with typical values, not verified: check them"
              onChange={(value) => value && make([{ kind: "add_case", case: value as NewCase }])}
            />
          </Box>
          {now ? (
            <Box>
              <CaseSheet {...{ document, faults, edit, onDone }} index={shown} key={now.id} />
              <Box sx={{ display: "flex", gap: 2, mt: 3 }}>
                <Button variant="outlined" onClick={() => make([{ kind: "copy_case", case: now.id }])}>
                  Copy case
                </Button>
                <Button variant="outlined" onClick={() => make([{ kind: "delete_case", case: now.id }])}>
                  Delete case
                </Button>
              </Box>
            </Box>
          ) : (
            <Typography>No case yet: the plan is judged for an ordinary day.</Typography>
          )}
        </Box>
        <Button variant="contained" sx={{ justifySelf: "start" }} onClick={onLeave}>
          Close
        </Button>
      </Box>
    </Dialog>
  );
}
