import { useState } from "react";

import type { Thing } from "../../api/types";
import { AskDialog } from "../../shared/AskDialog";
import { Choice } from "../../shared/Choice";
import { NameField } from "../../shared/NameField";
import { QuantityField } from "../../shared/QuantityField";
import { STARTS } from "./things";

interface Props {
  /** the ground there, where a height model tells it */
  groundM: number | null;
  onTake: (thing: Thing, name: string, groundM: number) => void;
  onLeave: () => void;
}

/** What is at the start of a pipe that was drawn from where nothing stands: the drawing is kept meanwhile. */
export function StartDialog({ groundM, onTake, onLeave }: Props) {
  const [thing, setThing] = useState<Thing>("tank");
  const [name, setName] = useState("");
  const [ground, setGround] = useState(groundM);
  const usual = STARTS.find((one) => one.value === thing)?.name ?? "";
  return (
    <AskDialog
      title="What is at the start?"
      act="Continue"
      ready={ground !== null}
      onLeave={onLeave}
      onTake={() => onTake(thing, name.trim() || usual, ground ?? 0)}
    >
      <Choice
        label="At the start"
        value={thing}
        options={STARTS}
        hint="nothing stands there yet; your drawing is kept"
        onChange={(value) => setThing(value as Thing)}
      />
      <NameField value={name} placeholder={usual} autoFocus onChange={setName} />
      <QuantityField label="Ground height" family="m" digits={2} value={ground} onChange={setGround} />
    </AskDialog>
  );
}
