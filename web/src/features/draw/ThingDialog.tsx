import { useState } from "react";

import type { Thing } from "../../api/types";
import { AskDialog } from "../../shared/AskDialog";
import { Choice } from "../../shared/Choice";
import { NameField } from "../../shared/NameField";
import { QuantityField } from "../../shared/QuantityField";
import { THINGS } from "./things";

interface Props {
  /** the line that it is dropped on; it is cut there and joined by a tee */
  lineName: string | null;
  /** the ground there, where a height model tells it */
  groundM: number | null;
  onTake: (thing: Thing, name: string, groundM: number) => void;
  onLeave: () => void;
}

/** What is added to the plan, what it is called, and how high the ground is there. */
export function ThingDialog({ lineName, groundM, onTake, onLeave }: Props) {
  const [thing, setThing] = useState<Thing>("trough");
  const [name, setName] = useState("");
  const [ground, setGround] = useState(groundM);
  const offered = THINGS.filter((one) => lineName === null || one.onLine);
  const usual = THINGS.find((one) => one.value === thing)?.name ?? "";
  const ready = lineName !== null || ground !== null;
  return (
    <AskDialog
      title="What is here?"
      act={`Add ${usual.toLowerCase()}`}
      ready={ready}
      onLeave={onLeave}
      onTake={() => onTake(thing, name.trim() || usual, ground ?? 0)}
    >
      <Choice
        label="Type"
        value={thing}
        options={offered}
        hint={lineName === null ? undefined : `${lineName} is cut here and joined by a tee`}
        onChange={(value) => setThing(value as Thing)}
      />
      <NameField value={name} placeholder={usual} autoFocus onChange={setName} />
      {lineName === null && (
        <QuantityField
          label="Ground height"
          family="m"
          digits={2}
          value={ground}
          hint={groundM === null ? undefined : "from the height model; correct it if you know better"}
          onChange={setGround}
        />
      )}
    </AskDialog>
  );
}
