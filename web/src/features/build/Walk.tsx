import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";

import type { Design, WalkStep } from "../../api/types";
import { ink } from "../../app/theme";
import { note } from "../../shared/logQueue";
import { nameOfPart } from "../../shared/names";
import { newEntry } from "../../shared/newEntry";
import { OneOf } from "../../shared/OneOf";
import { usePreferences } from "../../shared/preferences";
import { saidText } from "../../shared/saidText";
import { useLog } from "../../shared/useLog";
import { walked } from "./walked";

interface Props {
  designId: string;
  document: Design;
  drain: WalkStep[];
  spring: WalkStep[];
}

const WALKS = [
  { value: "drain", text: "Drain before frost" },
  { value: "spring", text: "Start in spring" },
] as const;

type Walked = (typeof WALKS)[number]["value"];

/** The walk along the lines, ticked off on the way: each tick is an entry of the log. */
export function Walk({ designId, document, drain, spring }: Props) {
  const { system, name: who } = usePreferences();
  const [walk, setWalk] = useState<Walked>("drain");
  const { entries } = useLog(designId);
  const [now] = useState(Date.now);
  const steps = walk === "drain" ? drain : spring;
  const done = walked(entries, walk, now);
  const tick = (step: WalkStep) =>
    note(
      designId,
      newEntry(
        {
          kind: "step",
          part: step.part ?? null,
          part_name: step.part ? nameOfPart(document, step.part) : null,
          figures: {
            step: `${walk}:${step.id}`,
            step_told: saidText(step.told, system).slice(0, 200),
            ended: "done",
          },
        },
        who,
      ),
    );
  return (
    <Box component="section" aria-label="The walk" sx={{ mt: 3 }}>
      <Typography variant="h2" sx={{ mb: 2 }}>
        The walk, from the source down
      </Typography>
      <OneOf value={walk} options={WALKS} name="Which walk" onChange={setWalk} />
      <Typography role="status" sx={{ my: 2 }}>
        {steps.filter(({ id }) => done.has(id)).length} of {steps.length} done
      </Typography>
      <Box component="ol" aria-label="Steps of the walk" sx={{ listStyle: "none", pl: 0, maxWidth: 620 }}>
        {steps.map((step, number) => (
          <Box
            component="li"
            key={step.id}
            data-testid={`walk-${step.id}`}
            sx={{
              display: "flex",
              gap: 3,
              borderTop: `1px solid ${ink("rule")}`,
              py: 2,
              alignItems: "center",
            }}
          >
            <Box sx={{ flex: 1, fontSize: 16 }}>
              {number + 1}. {saidText(step.told, system)}
              <Box sx={{ color: ink("faint"), fontSize: 13 }}>{saidText(step.seen, system)}</Box>
            </Box>
            {done.has(step.id) ? (
              <strong>✓ done</strong>
            ) : (
              <Button
                variant="outlined"
                sx={{ minHeight: 56, minWidth: 84 }}
                onClick={() => void tick(step).catch(() => undefined)}
              >
                Done
              </Button>
            )}
          </Box>
        ))}
      </Box>
    </Box>
  );
}
