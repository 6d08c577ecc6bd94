import Box from "@mui/material/Box";
import Button from "@mui/material/Button";
import Typography from "@mui/material/Typography";
import { useMutation } from "@tanstack/react-query";
import { useState } from "react";

import { makeFeed, planUpkeep } from "../../api/field";
import type { Design, Move, ServiceTask } from "../../api/types";
import { ink } from "../../app/theme";
import { Folded } from "../../shared/Folded";
import { note, useQueue } from "../../shared/logQueue";
import { nameOfPart } from "../../shared/names";
import { newEntry } from "../../shared/newEntry";
import { usePreferences } from "../../shared/preferences";
import { QuantityField } from "../../shared/QuantityField";
import { QueueTold } from "../../shared/QueueTold";
import { saidText } from "../../shared/saidText";
import { today } from "../../shared/today";
import { quantityText } from "../../shared/units";
import { useKept } from "../../shared/useKept";
import { useSettled } from "../../shared/useSettled";
import type { LogProps } from "./Entries";

const BIG = { minHeight: 48, minWidth: 96 } as const;

/** What is cleaned, checked, drained and moved next, and since when it waits. */
export function Upkeep({ designId, document }: LogProps) {
  const taken = useQueue((queue) => queue.taken);
  const told = useKept(
    useSettled(["upkeep", designId, taken, today()], document, document, (asked: Design, signal) =>
      planUpkeep(designId, asked, today(), signal),
    ),
  );
  return (
    <Box component="section" aria-label="Upkeep" sx={{ maxWidth: 720 }}>
      <Box sx={{ p: 4 }}>
        <Typography variant="h1">Upkeep</Typography>
        {!told ? (
          <Typography>Looking at plan and log …</Typography>
        ) : (
          <>
            {told.tasks.length === 0 && <Typography>The plan has nothing that is to be kept up.</Typography>}
            <Box component="ol" aria-label="Tasks" sx={{ listStyle: "none", pl: 0 }}>
              {told.tasks.map((task) => (
                <Task key={task.id} task={task} designId={designId} document={document} />
              ))}
            </Box>
            <Moves moves={told.moves} designId={designId} document={document} />
          </>
        )}
        <Feed designId={designId} />
      </Box>
      <QueueTold designId={designId} />
    </Box>
  );
}

interface TaskProps {
  task: ServiceTask;
  designId: string;
  document: Design;
}

function Task({ task, designId, document }: TaskProps) {
  const { system, name: who } = usePreferences();
  const [days, setDays] = useState<number | null>(null);
  const [litres, setLitres] = useState<number | null>(null);
  const [open, setOpen] = useState(false);
  const done = () =>
    note(
      designId,
      newEntry(
        {
          kind: "service",
          part: task.part,
          part_name: nameOfPart(document, task.part),
          said: saidText(task.told, "metric"),
          figures: {
            task: task.id,
            ...(days === null ? {} : { every_days: days }),
            ...(litres === null ? {} : { every_l: litres }),
          },
        },
        who,
      ),
    );
  const once = task.kind === "bury" || task.kind === "drain" || task.kind === "spring";
  return (
    <Box
      component="li"
      data-testid={`task-${task.id}`}
      sx={{ borderTop: `1px solid ${ink("rule")}`, py: 2, display: "flex", gap: 3, alignItems: "flex-start" }}
    >
      <Box sx={{ flex: 1, minWidth: 0 }}>
        <Box sx={{ fontWeight: 700 }}>{saidText(task.told, system)}</Box>
        <Box sx={{ color: ink(task.late ? "short" : "faint") }}>
          {task.late && "■ late: "}
          {task.due} · {saidText(task.why, system)}
          {task.last ? ` · last on ${task.last}` : " · never noted"}
          {task.litres != null &&
            ` · ${quantityText({ value: task.litres, unit: "L" }, system)} since, by the plan`}
        </Box>
        {!once && !open && (
          <Button sx={{ p: 0, minHeight: { xs: 44, md: 24 } }} onClick={() => setOpen(true)}>
            Another interval
          </Button>
        )}
        {open && (
          <>
            <Box sx={{ display: "flex", gap: 3, maxWidth: 320, pb: 2 }}>
              <QuantityField
                label="Every"
                family="d"
                digits={0}
                value={days}
                onChange={setDays}
                onClear={() => setDays(null)}
              />
              {task.kind === "filter" && (
                <QuantityField
                  label="Or after"
                  family="L"
                  digits={0}
                  value={litres}
                  onChange={setLitres}
                  onClear={() => setLitres(null)}
                />
              )}
            </Box>
            It counts from when you press Done.
          </>
        )}
      </Box>
      <Button variant={task.late ? "contained" : "outlined"} sx={BIG} onClick={() => void done()}>
        Done
      </Button>
    </Box>
  );
}

interface MovesProps {
  moves: Move[];
  designId: string;
  document: Design;
}

/** The next moves of the grazing calendar; the first with its steps. */
function Moves({ moves, designId, document }: MovesProps) {
  const { system, name: who } = usePreferences();
  if (!moves.length) return null;
  const thrown = moves.reduce((sum, move) => sum + move.thrown_l, 0);
  const moved = (move: Move) =>
    note(
      designId,
      newEntry(
        {
          kind: "move",
          part: move.reached,
          part_name: nameOfPart(document, move.reached),
          said: `${move.herd_name} to ${move.reached_name}`,
          figures: {
            herd: move.herd,
            litres: move.thrown_l,
            ...(move.minutes == null ? {} : { minutes: move.minutes }),
          },
        },
        who,
      ),
    );
  return (
    <Box component="section" aria-label="Next moves" sx={{ mt: 4 }}>
      <Typography variant="h2">Next moves</Typography>
      {thrown > 0 && (
        <Typography>
          The next {moves.length} moves throw {quantityText({ value: thrown, unit: "L" }, system)} away.
        </Typography>
      )}
      {moves.map((move, number) => (
        <Folded
          key={`${move.day} ${move.herd} ${move.reached}`}
          open={number === 0}
          title={`${move.day} · ${move.herd_name} to ${move.reached_name}${move.carried ? ` with ${move.carried}` : ""}`}
        >
          <Box sx={{ color: ink("faint") }}>
            {[
              move.thrown_l > 0 && `${quantityText({ value: move.thrown_l, unit: "L" }, system)} thrown away`,
              move.minutes != null && `${move.minutes} min of work`,
              move.wait_s != null && `full again in ${Math.max(1, Math.round(move.wait_s / 60))} min`,
            ]
              .filter(Boolean)
              .join(" · ")}
          </Box>
          <ol>
            {move.steps.map((step, index) => (
              <li key={index}>{saidText(step, system)}</li>
            ))}
          </ol>
          <Button variant="outlined" sx={BIG} onClick={() => void moved(move)}>
            Moved: note it
          </Button>
        </Folded>
      ))}
    </Box>
  );
}

/** The address at which a phone's calendar reads tasks and moves. */
function Feed({ designId }: { designId: string }) {
  const { system } = usePreferences();
  const made = useMutation({ mutationFn: () => makeFeed(designId) });
  const address = made.data ? `${window.location.origin}${made.data.path}&units=${system}` : null;
  return (
    <Box component="section" aria-label="Calendar feed" sx={{ mt: 4 }}>
      <Typography variant="h2">In the phone&apos;s calendar</Typography>
      <Typography>
        A calendar that subscribes to the address shows tasks and moves by itself. Who has the address reads
        it; making a new one ends the old one. The phone has to reach this server.
      </Typography>
      <Button
        variant="outlined"
        sx={{ ...BIG, mt: 2 }}
        disabled={made.isPending}
        onClick={() => made.mutate()}
      >
        Make an address
      </Button>
      {made.error && <Typography role="alert">{made.error.message}</Typography>}
      {address && (
        <Box sx={{ mt: 2, overflowWrap: "anywhere" }} data-testid="feed">
          <a href={address}>{address}</a>
        </Box>
      )}
    </Box>
  );
}
