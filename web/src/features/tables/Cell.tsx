import { useState } from "react";

import type { Catalogue, Design, Fault } from "../../api/types";
import { useEdits } from "../../shared/edits";
import { usePreferences } from "../../shared/preferences";
import { fromShown, toShown, typedNumber, type System } from "../../shared/units";
import type { Edit } from "../sheet";
import type { Column } from "./columns";

interface Part {
  id: string;
  name?: string | null;
}

interface Props {
  part: Part;
  column: Column<Part>;
  document: Design;
  catalogue: Catalogue | undefined;
  fault: Fault | undefined;
  edit: Edit;
  onDone: () => void;
}

interface Typed {
  text: string;
  system: System;
  /** what stood there when typing began */
  before: string | number | null;
}

/** One figure of one part: typed in place where it is the part's own, told where it follows from something else. */
export function Cell({ part, column, document, catalogue, fault, edit, onDone }: Props) {
  const { apply } = useEdits();
  const system = usePreferences((state) => state.system);
  const [typed, setTyped] = useState<Typed | null>(null);
  const value = column.of(part, document);
  const name = `${column.title} of ${part.name ?? part.id}`;
  const { put, family, options } = column;
  if ((!put && !column.edit) || (value === null && !column.optional)) return <span>{value ?? "–"}</span>;
  const change = (next: string | number | null) => {
    const key = `${part.id}.${column.key}`;
    const made = column.edit?.(part, next, catalogue);
    if (made) apply(key, [made]);
    else if (put) edit(key, (draft) => put(draft, part, next));
  };
  if (options) {
    const offered = options(document, catalogue);
    const known = offered.some((option) => option.value === value);
    return (
      <select
        aria-label={name}
        value={String(value ?? "")}
        onChange={(event) => {
          change(event.target.value);
          onDone();
        }}
      >
        {!known && <option value={String(value ?? "")}>{value === "" ? "by its own figures" : value}</option>}
        {offered.map((option) => (
          <option key={option.value} value={option.value}>
            {option.text}
          </option>
        ))}
      </select>
    );
  }
  const shown =
    family && typeof value === "number"
      ? String(Number(toShown(value, family, system).toFixed(column.digits ?? 1)))
      : String(value ?? "");
  const text = typed?.system === system ? typed.text : null;
  const nonsense = family !== undefined && text !== null && text.trim() !== "" && typedNumber(text) === null;
  return (
    <input
      aria-label={name}
      aria-invalid={nonsense || fault !== undefined}
      title={
        nonsense ? `“${text}” is not a number` : fault && `found ${fault.value}; allowed: ${fault.limit}`
      }
      inputMode={family ? "decimal" : "text"}
      placeholder={family ? "–" : part.id}
      value={text ?? shown}
      size={family ? 8 : 18}
      style={{ textAlign: family ? "right" : "left" }}
      onChange={(event) => {
        const given = event.target.value;
        const before = typed ? typed.before : value;
        setTyped({ text: given, system, before });
        if (!family) {
          change(given);
          return;
        }
        const number = typedNumber(given);
        if (number !== null) change(fromShown(number, family, system));
        else if (given.trim() === "") {
          if (column.optional) change(null);
        } else change(before); // what is no number leaves nothing of its first figures behind
      }}
      onKeyDown={(event) => {
        if (event.key === "Enter") moveDown(event.currentTarget);
      }}
      onBlur={() => {
        setTyped(null);
        onDone();
      }}
    />
  );
}

/** Enter goes on to the same figure of the next part. */
function moveDown(input: HTMLInputElement): void {
  const cell = input.closest("td");
  const row = cell?.parentElement?.nextElementSibling;
  const index = cell ? [...(cell.parentElement?.children ?? [])].indexOf(cell) : -1;
  row?.children[index]?.querySelector<HTMLElement>("input, select")?.focus();
}
