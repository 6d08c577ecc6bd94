import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useState } from "react";
import { Link } from "react-router";

import { planFirstWater } from "../../api/client";
import type { Design, FieldStep, LogEntry } from "../../api/types";
import { ink } from "../../app/theme";
import { Caution } from "../../shared/Caution";
import { note } from "../../shared/logQueue";
import { NameField } from "../../shared/NameField";
import { nameOfPart } from "../../shared/names";
import { newEntry } from "../../shared/newEntry";
import { usePreferences } from "../../shared/preferences";
import { PhotoNote } from "../../shared/PhotoNote";
import { PhotoShown } from "../../shared/PhotoShown";
import { QuantityField } from "../../shared/QuantityField";
import { QueueTold } from "../../shared/QueueTold";
import { saidText } from "../../shared/saidText";
import { useKept } from "../../shared/useKept";
import { useLog } from "../../shared/useLog";
import { useSettled } from "../../shared/useSettled";
import type { BuildProps } from "./Build";
import { ended, firstOpen, sourceOpenedAt, troubleOf, type StepEnd } from "./firstWater";
import { Clock, Stopwatch } from "./Stopwatch";

const LONGEST_FIGURE = 200;
const BIG = { minHeight: 60, fontSize: 17, flex: "1 1 140px" } as const;

/** First water one step after the other: large keys, a clock, a pail; each step done, skipped or failed. */
export function FirstWater({ document, designId }: BuildProps) {
  const system = usePreferences((state) => state.system);
  const who = usePreferences((state) => state.name);
  const plan = useKept(
    useSettled(["first-water"], document, document, (asked: Design, signal) => planFirstWater(asked, signal)),
  );
  const { entries } = useLog(designId);
  const [chosen, setChosen] = useState<string | null>(null);
  const [why, setWhy] = useState("");
  const [failed, setFailed] = useState<FieldStep | null>(null);
  if (!plan)
    return (
      <Typography variant="h1" sx={{ p: 4 }}>
        Working out when the water comes …
      </Typography>
    );
  const ends = ended(entries);
  const step = plan.steps.find(({ id }) => id === chosen) ?? firstOpen(plan.steps, ends);
  const record = (told: Parameters<typeof newEntry>[0]) => note(designId, newEntry(told, who));
  const stepFigures = (of: FieldStep) => ({
    step: of.id,
    step_told: saidText(of.told, system).slice(0, LONGEST_FIGURE),
  });
  const end = async (of: FieldStep, how: StepEnd["how"]) => {
    await record({
      kind: "step",
      part: of.part ?? null,
      part_name: of.part ? nameOfPart(document, of.part) : null,
      said: how === "done" ? "" : why,
      figures: { ...stepFigures(of), ended: how },
    });
    setWhy("");
    setChosen(null);
  };
  return (
    <Box component="section" aria-label="First water" sx={{ maxWidth: 620 }}>
      <Box sx={{ p: 4 }}>
        {step ? (
          <article aria-label="The step in hand" data-testid={`step-${step.id}`}>
            <Box sx={{ color: ink("faint"), fontSize: 14 }}>
              Step {plan.steps.indexOf(step) + 1} of {plan.steps.length}
            </Box>
            <Typography variant="h1" sx={{ fontSize: 24 }}>
              {saidText(step.told, system)}
            </Typography>
            <Typography sx={{ my: 2, fontSize: 16 }}>{saidText(step.seen, system)}</Typography>
            {failed && (
              <Box role="status" sx={{ bgcolor: ink("rail"), p: 3, my: 2 }}>
                <strong>{saidText(failed.told, system)}: failed.</strong>{" "}
                <Button
                  variant="outlined"
                  sx={{ minHeight: 48 }}
                  component={Link}
                  to={troubleOf(designId, failed)}
                >
                  Find out why
                </Button>
              </Box>
            )}
            {step.kind === "arrives" && (
              <Clock
                since={sourceOpenedAt(entries)}
                soonest={step.soonest_s ?? null}
                latest={step.latest_s ?? null}
              />
            )}
            {step.kind === "pail" && step.flow_lpm != null && (
              <Stopwatch key={step.id} step={step} timings={timingsOf(entries, step)} onTimed={record} />
            )}
            {step.kind === "gauge" && <Gauge key={step.id} step={step} onRead={record} />}
            {photosOf(entries, step).map((entry) => (
              <PhotoShown key={entry.id} designId={designId} entry={entry} />
            ))}
            <Box sx={{ display: "flex", flexWrap: "wrap", gap: 2, mt: 3 }}>
              <Button
                variant="contained"
                sx={{ ...BIG, flexBasis: "100%" }}
                onClick={() => void end(step, "done")}
              >
                {step.kind === "arrives" ? "Arrived, runs clear" : "Done"}
              </Button>
              <Box sx={{ flex: "1 1 100%", "& .MuiTextField-root": { width: "100%" } }}>
                <NameField
                  label="Why, if it is skipped or failed"
                  value={why}
                  placeholder="reason"
                  onChange={setWhy}
                />
              </Box>
              <Button variant="outlined" sx={BIG} disabled={!why} onClick={() => void end(step, "skipped")}>
                Skip
              </Button>
              <Button
                variant="outlined"
                sx={BIG}
                disabled={!why}
                onClick={() => {
                  void end(step, "failed");
                  setFailed(step);
                }}
              >
                Failed
              </Button>
            </Box>
            <PhotoNote
              key={step.id}
              designId={designId}
              about={{
                part: step.part ?? null,
                part_name: step.part ? nameOfPart(document, step.part) : null,
                figures: stepFigures(step),
              }}
            />
          </article>
        ) : (
          <Typography variant="h1">Every step has an end. Look again tomorrow.</Typography>
        )}
        <Box component="ol" sx={{ mt: 4, pl: 0, listStyle: "none" }} aria-label="All steps">
          {plan.steps.map((one, number) => {
            const done = ends.get(one.id);
            return (
              <li key={one.id}>
                <Button
                  sx={{ minHeight: 44, textAlign: "left", justifyContent: "flex-start", width: "100%" }}
                  aria-current={one === step ? "step" : undefined}
                  onClick={() => setChosen(one.id)}
                >
                  <span>
                    {number + 1}. {saidText(one.told, system)}
                    {done && (
                      <strong>
                        {" · "}
                        {done.how}
                        {done.why && `: ${done.why}`}
                      </strong>
                    )}
                  </span>
                </Button>
              </li>
            );
          })}
        </Box>
        <Caution>
          Water under pressure throws loose ends about: stand aside. Hands off pumps and switches with wet
          hands.
        </Caution>
      </Box>
      <QueueTold designId={designId} />
    </Box>
  );
}

/** The photos that were taken at a step, oldest first. */
const photosOf = (entries: LogEntry[], step: FieldStep): LogEntry[] =>
  entries.filter((entry) => entry.kind === "photo" && entry.figures?.step === step.id).reverse();

/** The timings that were taken at a step's outlet, oldest first. */
const timingsOf = (entries: LogEntry[], step: FieldStep): LogEntry[] =>
  entries.filter((entry) => entry.kind === "timing" && entry.part === step.part).reverse();

function Gauge({
  step,
  onRead,
}: {
  step: FieldStep;
  onRead: (told: Parameters<typeof newEntry>[0]) => Promise<void>;
}) {
  const [kpa, setKpa] = useState<number | null>(null);
  return (
    <Box sx={{ display: "flex", gap: 3, alignItems: "flex-end" }}>
      <Box sx={{ width: 160 }}>
        <QuantityField label="The gauge reads" family="kPa" digits={1} value={kpa} onChange={setKpa} />
      </Box>
      <Button
        variant="outlined"
        sx={{ minHeight: 48 }}
        disabled={kpa === null}
        onClick={() => {
          if (kpa !== null)
            void onRead({ kind: "gauge", part: step.part ?? null, figures: { pressure_kpa: kpa } });
        }}
      >
        Note it
      </Button>
    </Box>
  );
}
