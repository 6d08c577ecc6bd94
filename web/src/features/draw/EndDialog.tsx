import { useState } from "react";

import type { Thing } from "../../api/types";
import { AskDialog } from "../../shared/AskDialog";
import { Choice } from "../../shared/Choice";
import { NameField } from "../../shared/NameField";
import { QuantityField } from "../../shared/QuantityField";
import { ENDS } from "./things";

interface Props {
  fromName: string;
  /** how much lower it is, where a height model tells it */
  lowerM: number | null;
  onTake: (end: Thing, name: string, lowerM: number) => void;
  onLeave: () => void;
}

/** What stands at the end of a line that was just drawn, and how much lower it is: what the head is made of. */
export function EndDialog({ fromName, lowerM, onTake, onLeave }: Props) {
  const [end, setEnd] = useState<Thing>("trough");
  const [name, setName] = useState("");
  const [lower, setLower] = useState(lowerM);
  const usual = ENDS.find((one) => one.value === end)?.name ?? "";
  const hint =
    lowerM !== null
      ? "from the height model; correct it if you know better"
      : lower === null
        ? "ground to ground; higher is negative"
        : undefined;
  return (
    <AskDialog
      title="What is at the end?"
      act="Add pipe"
      ready={lower !== null}
      onLeave={onLeave}
      onTake={() => onTake(end, name.trim() || usual, lower ?? 0)}
    >
      <Choice label="At the end" value={end} options={ENDS} onChange={(value) => setEnd(value as Thing)} />
      <NameField value={name} placeholder={usual} autoFocus onChange={setName} />
      <QuantityField
        label={`How much lower than ${fromName}`}
        family="m"
        digits={2}
        value={lower}
        hint={hint}
        onChange={setLower}
      />
    </AskDialog>
  );
}
