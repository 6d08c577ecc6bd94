import { useState } from "react";

import type { Catalogue, Design, Fault } from "../../api/types";
import { useEdits } from "../../shared/edits";
import { usePreferences } from "../../shared/preferences";
import type { Family } from "../../shared/units";
import { limitText, useTypedNumber } from "../../shared/useTypedNumber";
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

/** One figure of one part: typed in place where it is the part's own, told where it follows from something else. */
export function Cell({ part, column, document, catalogue, fault, edit, onDone }: Props) {
  const { apply } = useEdits();
  const [typed, setTyped] = useState<string | null>(null);
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
  const done = () => {
    setTyped(null);
    onDone();
  };
  if (family)
    return (
      <NumberCell
        {...{ name, family, fault, onDone }}
        value={typeof value === "number" ? value : null}
        digits={column.digits ?? 1}
        onChange={change}
        onClear={column.optional ? () => change(null) : undefined}
      />
    );
  return (
    <input
      aria-label={name}
      aria-invalid={fault !== undefined}
      title={fault && `found ${fault.value}; allowed: ${fault.limit}`}
      placeholder={part.id}
      value={typed ?? String(value ?? "")}
      size={18}
      onChange={(event) => {
        setTyped(event.target.value);
        change(event.target.value);
      }}
      onKeyDown={(event) => {
        if (event.key === "Enter") moveDown(event.currentTarget);
      }}
      onBlur={done}
    />
  );
}

interface NumberProps {
  name: string;
  family: Family;
  value: number | null;
  digits: number;
  fault: Fault | undefined;
  onChange: (value: number) => void;
  onClear: (() => void) | undefined;
  onDone: () => void;
}

/** A number of a part, in the user's units; what is refused stays in its cell, marked, with the reason. */
function NumberCell({ name, family, value, digits, fault, onChange, onClear, onDone }: NumberProps) {
  const system = usePreferences((state) => state.system);
  const typed = useTypedNumber({ family, value, onChange, onClear, digits });
  const { trouble } = typed;
  const why = trouble
    ? { empty: "a number is needed", nonsense: "is not a number", unclear: "may be two numbers" }[
        trouble.kind
      ]
    : null;
  return (
    <input
      aria-label={name}
      aria-invalid={trouble !== null || fault !== undefined}
      title={
        why !== null
          ? `“${typed.text}” ${why}; ${typed.shown} stands`
          : fault &&
            `found ${limitText(fault.value, family, system)}; allowed: ${limitText(fault.limit, family, system)}`
      }
      inputMode="decimal"
      placeholder="–"
      value={typed.text}
      size={8}
      style={{ textAlign: "right" }}
      onChange={(event) => typed.type(event.target.value)}
      onKeyDown={(event) => {
        if (event.key === "Enter") moveDown(event.currentTarget);
        if (event.key === "Escape") typed.giveUp();
      }}
      onBlur={() => {
        typed.leave();
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
