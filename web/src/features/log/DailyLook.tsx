import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Link } from "react-router";

import type { Design } from "../../api/types";
import { ink } from "../../app/theme";
import { note } from "../../shared/logQueue";
import { nameOfPart } from "../../shared/names";
import { newEntry } from "../../shared/newEntry";
import { usePreferences } from "../../shared/preferences";
import { QueueTold } from "../../shared/QueueTold";
import { saidText } from "../../shared/saidText";
import { Round } from "./Round";
import { useLooks } from "./useLooks";
import { agoText, lookedAt, QUESTIONS, troubleAt, type Answers } from "./look";

interface Props {
  designId: string;
  document: Design;
}

const BIG = { minHeight: 56, flex: "1 1 70px", minWidth: 0, px: 1, fontSize: 16 } as const;

/** One round: trough after trough, a few large keys each; what is not pressed is not noted. */
export function DailyLook({ designId, document }: Props) {
  const { system, name: who } = usePreferences();
  const { looks, readAt } = useLooks(designId);
  const stops = lookedAt(document);
  const [at, setAt] = useState(0);
  const [answers, setAnswers] = useState<Answers>({});
  const stop = stops[at];
  const known = looks.find(({ part }) => part === stop?.id);
  const go = () => {
    setAnswers({});
    setAt(at + 1);
  };
  const keep = async () => {
    if (!stop) return;
    await note(
      designId,
      newEntry(
        { kind: "look", part: stop.id, part_name: nameOfPart(document, stop.id), figures: answers },
        who,
      ),
    );
    go();
  };
  const next = stops[at + 1];
  return (
    <Box component="section" aria-label="Daily look" sx={{ maxWidth: 560 }}>
      <Box sx={{ p: 4 }}>
        {!stops.length ? (
          <Typography>No trough is on the plan yet: there is nothing to look at.</Typography>
        ) : !stop ? (
          <>
            <Typography variant="h1">The round is done.</Typography>
            <Button variant="outlined" sx={{ ...BIG, mt: 3 }} onClick={() => setAt(0)}>
              Begin again
            </Button>
          </>
        ) : (
          <article aria-label="The trough in hand" data-testid={`look-${stop.id}`}>
            <Box sx={{ color: ink("faint") }}>
              {at + 1} of {stops.length}
              {known && ` · last look ${agoText(known.last_at, readAt)} ago`}
            </Box>
            <Typography variant="h1" sx={{ fontSize: 26 }}>
              {nameOfPart(document, stop.id)}
            </Typography>
            {known && known.told.length > 0 && (
              <Box role="status" sx={{ bgcolor: ink("rail"), p: 3, my: 2, fontWeight: 700 }}>
                {saidText(known.told, system)}
              </Box>
            )}
            {QUESTIONS.map(({ key, text, answers: choices }) => (
              <Box
                key={key}
                role="group"
                aria-label={text}
                sx={{ display: "flex", flexWrap: "wrap", gap: 2, alignItems: "center", my: 2 }}
              >
                <Box sx={{ width: 80 }}>{text}</Box>
                {choices.map((choice) => (
                  <Button
                    key={choice.text}
                    variant={answers[key] === choice.value ? "contained" : "outlined"}
                    aria-pressed={answers[key] === choice.value}
                    sx={BIG}
                    onClick={() => setAnswers({ ...answers, [key]: choice.value })}
                  >
                    {choice.text}
                  </Button>
                ))}
              </Box>
            ))}
            <Button
              variant="contained"
              sx={{ ...BIG, width: "100%", minHeight: 64, mt: 3 }}
              disabled={!Object.keys(answers).length}
              onClick={() => void keep()}
            >
              {next ? `Note it, next: ${nameOfPart(document, next.id)}` : "Note it, and the round is done"}
            </Button>
            <Box sx={{ display: "flex", gap: 2, mt: 2 }}>
              <Button variant="outlined" sx={BIG} component={Link} to={troubleAt(document, stop.id)}>
                Something is wrong
              </Button>
              <Button variant="outlined" sx={BIG} onClick={go}>
                Skip
              </Button>
            </Box>
          </article>
        )}
        <Round designId={designId} />
      </Box>
      <QueueTold designId={designId} />
    </Box>
  );
}
