import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { useSearchParams } from "react-router";

import { findTrouble } from "../../api/field";
import type { Design, Symptom, Trouble as Told } from "../../api/types";
import { ink } from "../../app/theme";
import { Caution } from "../../shared/Caution";
import { Choice } from "../../shared/Choice";
import { note } from "../../shared/logQueue";
import { nameOfPart } from "../../shared/names";
import { newEntry } from "../../shared/newEntry";
import { usePreferences } from "../../shared/preferences";
import { QueueTold } from "../../shared/QueueTold";
import { saidText } from "../../shared/saidText";
import { useKept } from "../../shared/useKept";
import { useSettled } from "../../shared/useSettled";
import type { LogProps } from "./Entries";
import { partInTrouble, partsWithTrouble, SYMPTOMS } from "./trouble";

const BIG = { minHeight: 60, fontSize: 17, flex: "1 1 130px" } as const;

interface Asked {
  document: Design;
  symptom: Symptom;
  part: string;
  answers: Record<string, string>;
}

/** From what is wrong to where to walk: one question after the other, the cheapest first, and what to do then. */
export function Trouble({ designId, document, onShow }: LogProps) {
  const [asked, setAsked] = useSearchParams();
  const symptom = SYMPTOMS.find(({ value }) => value === asked.get("symptom"))?.value ?? null;
  const ask = (key: "symptom" | "part", value: string | null) =>
    setAsked(
      (before) => {
        if (value === null) before.delete(key);
        else before.set(key, value);
        return before;
      },
      { replace: true },
    );
  const parts = partsWithTrouble(document, symptom);
  const part = partInTrouble(document, parts, asked.get("part") ?? "");
  return (
    <Box component="section" aria-label="Trouble" sx={{ maxWidth: 620 }}>
      <Box sx={{ p: 4 }}>
        {symptom === null ? (
          <>
            <Typography variant="h1">What is wrong?</Typography>
            <Box sx={{ display: "flex", flexWrap: "wrap", gap: 2, mt: 3 }}>
              {SYMPTOMS.map(({ value, text }) => (
                <Button key={value} variant="outlined" sx={BIG} onClick={() => ask("symptom", value)}>
                  {text}
                </Button>
              ))}
            </Box>
          </>
        ) : (
          <>
            <Box sx={{ display: "flex", gap: 3, alignItems: "flex-end", mb: 3 }}>
              <Box sx={{ flex: 1 }}>
                <Choice
                  label={SYMPTOMS.find(({ value }) => value === symptom)?.text ?? ""}
                  value={part}
                  options={parts.map((id) => ({ value: id, text: nameOfPart(document, id) }))}
                  onChange={(chosen) => ask("part", chosen)}
                />
              </Box>
              <Button variant="outlined" sx={{ minHeight: 48 }} onClick={() => ask("symptom", null)}>
                Begin again
              </Button>
            </Box>
            {part ? (
              <Search
                key={`${symptom} ${part}`}
                designId={designId}
                document={document}
                onShow={onShow}
                symptom={symptom}
                part={part}
              />
            ) : (
              <Typography>Nothing on the plan can have that.</Typography>
            )}
          </>
        )}
      </Box>
      <QueueTold designId={designId} />
    </Box>
  );
}

function Search({
  designId,
  document,
  onShow,
  symptom,
  part,
}: LogProps & { symptom: Symptom; part: string }) {
  const { system } = usePreferences();
  const [answers, setAnswers] = useState<Record<string, string>>({});
  const [asked, setAsked] = useState<Asked>({ document, symptom, part, answers });
  if (asked.document !== document || asked.answers !== answers)
    setAsked({ document, symptom, part, answers });
  const told = useKept(
    useSettled(["trouble", designId], asked, asked, (now: Asked, signal) =>
      findTrouble(designId, now, signal),
    ),
  );
  if (!told) return <Typography>Looking at the plan …</Typography>;
  const { next } = told;
  const count = Object.keys(answers).length;
  return (
    <>
      {next && !told.found && (
        <article aria-label="Look at this" data-testid={next.id}>
          <Typography variant="h1" sx={{ fontSize: 24 }}>
            {saidText(next.told, system)}
          </Typography>
          <Box sx={{ color: ink("faint"), my: 1 }}>
            About {Math.max(1, Math.round(next.minutes))} min with the walk
          </Box>
          <Box sx={{ display: "flex", flexWrap: "wrap", gap: 2, my: 2 }}>
            {next.answers.map(({ id, text }) => (
              <Button
                key={id}
                variant="outlined"
                sx={BIG}
                onClick={() => setAnswers({ ...answers, [next.id]: id })}
              >
                {text}
              </Button>
            ))}
          </Box>
        </article>
      )}
      {told.found && <Mend {...{ designId, document, told, symptom, part }} />}
      <Likely told={told} onShow={onShow} />
      <Until told={told} />
      {count > 0 && (
        <Button
          onClick={() => setAnswers(Object.fromEntries(Object.entries(answers).slice(0, -1)))}
          sx={{ minHeight: 44 }}
        >
          Take the last of {count} {count === 1 ? "answer" : "answers"} back
        </Button>
      )}
    </>
  );
}

/** What it may be, with how likely that is. */
function Likely({ told, onShow }: { told: Told; onShow: (id: string) => void }) {
  const { system } = usePreferences();
  return (
    <Box sx={{ bgcolor: ink("rail"), p: 3, mt: 3 }} data-testid="likely">
      <Typography variant="h2">Most likely now</Typography>
      <Box component="ol" sx={{ listStyle: "none", pl: 0, my: 0 }}>
        {told.causes.map((one) => (
          <Box component="li" key={one.id} sx={{ mt: 2 }}>
            <Box sx={{ display: "flex", justifyContent: "space-between", gap: 2 }}>
              <span>{saidText(one.told, system)}</span>
              <Box component="span" sx={{ whiteSpace: "nowrap" }}>
                {Math.round(100 * one.likely)} %
              </Box>
            </Box>
            <Box aria-hidden sx={{ height: 12, bgcolor: ink("rule") }}>
              <Box sx={{ width: `${100 * one.likely}%`, height: "100%", bgcolor: ink("deep") }} />
            </Box>
          </Box>
        ))}
      </Box>
      {told.readings.length > 0 && <Box sx={{ mt: 2 }}>{saidText(told.readings, system)}</Box>}
      {told.causes[0] && (
        <Button
          variant="outlined"
          sx={{ minHeight: 44, mt: 2 }}
          onClick={() => onShow(told.causes[0]?.part ?? "")}
        >
          Show it on the plan
        </Button>
      )}
    </Box>
  );
}

/** What holds until it is mended: what to shut, for how long water lasts, what helps out. */
function Until({ told }: { told: Told }) {
  const { system } = usePreferences();
  const lines = [told.shut, ...told.lasts, told.standby, told.lost].filter((words) => words.length > 0);
  if (!lines.length) return null;
  return (
    <Box sx={{ border: `1px solid ${ink("rule")}`, p: 3, mt: 3 }} data-testid="until">
      {lines.map((words, number) => (
        <Box key={number} sx={{ mt: number ? 1 : 0 }}>
          {saidText(words, system)}
        </Box>
      ))}
    </Box>
  );
}

interface MendProps {
  designId: string;
  document: Design;
  told: Told;
  symptom: Symptom;
  part: string;
}

/** How the likeliest cause is mended, and what keeps it away. */
function Mend({ designId, document, told, symptom, part }: MendProps) {
  const { system, name: who } = usePreferences();
  const [noted, setNoted] = useState(false);
  const first = told.causes[0];
  if (!first) return null;
  const keep = async () => {
    await note(
      designId,
      newEntry(
        {
          kind: "mend",
          part: first.part,
          part_name: nameOfPart(document, first.part),
          said: saidText(first.told, "metric"),
          figures: { symptom, at: part, cause: first.id },
        },
        who,
      ),
    );
    setNoted(true);
  };
  return (
    <article aria-label="Mend it" data-testid="mend">
      <Typography variant="h1" sx={{ fontSize: 24 }}>
        {saidText(first.told, system)}
      </Typography>
      <ol>
        {first.mend.map((step) => (
          <li key={step}>{step}</li>
        ))}
        <li>{told.after}</li>
      </ol>
      <Box>
        <strong>So that it does not come back:</strong> {first.prevent}
      </Box>
      <Button
        variant="contained"
        sx={{ ...BIG, width: "100%", mt: 2 }}
        disabled={noted}
        onClick={() => void keep()}
      >
        {noted ? "Noted in the log" : "Mended: note it"}
      </Button>
      <Caution>
        Shut water and current off before anything is opened. Digging, electricity and drinking water: local
        rules and licensed people.
      </Caution>
    </article>
  );
}
