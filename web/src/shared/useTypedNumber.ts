import { useState } from "react";

import { usePreferences } from "./preferences";
import { readNumber } from "./readNumber";
import { digitsOf, fromShown, toShown, type Family, type System } from "./units";

interface Asked {
  family: Family;
  /** in the document's unit; null is an empty field */
  value: number | null;
  onChange: (value: number) => void;
  /** the field may be emptied, where the figure is optional */
  onClear?: (() => void) | undefined;
  digits?: number | undefined;
}

interface Kept {
  text: string;
  system: System;
  /** what stood there before typing began */
  before: number | null;
  /** what stands there since this was typed, and what is still shown while that is on its way */
  since: (number | null)[];
}

/** What is wrong with what was typed: the figure before it stands meanwhile. */
export type Trouble =
  | { kind: "empty" }
  | { kind: "nonsense"; text: string }
  /** it may be any of these, in the user's units */
  | { kind: "unclear"; text: string; values: number[] };

/**
 * A number as it is typed in the user's units. It takes effect at once; what is no number, or may be two, changes
 * nothing, and stays to be seen, marked, until it is put right or given up.
 */
export function useTypedNumber({ family, value, onChange, onClear, digits }: Asked) {
  const system = usePreferences((state) => state.system);
  const [kept, setKept] = useState<Kept | null>(null);
  const places = digits ?? digitsOf(value ?? Infinity, family, system);
  const shown = value === null ? "" : String(Number(toShown(value, family, system).toFixed(places)));
  // what was typed in other units is over; so is what was refused once the figure has changed by other hands
  const holds =
    kept?.system === system && (kept.since.includes(value) || troubleOf(kept.text, onClear) === null);
  const typed = kept && holds ? kept : null;
  const trouble = typed && troubleOf(typed.text, onClear);

  const type = (text: string) => {
    const before = typed ? typed.before : value;
    const reading = readNumber(text);
    const next = reading.kind === "number" ? fromShown(reading.value, family, system) : null;
    const given = reading.kind === "number" ? next : reading.kind === "empty" && onClear ? null : before;
    setKept({ text, system, before, since: [value, given] });
    if (given === value) return;
    if (given === null) onClear?.();
    else onChange(given); // what is no number leaves nothing of its first figures behind
  };
  return {
    text: typed?.text ?? shown,
    /** the figure that stands, as it would be shown */
    shown,
    places,
    trouble,
    type,
    /** The typing ends: what was refused stays. */
    leave: () => {
      if (!trouble) setKept(null);
    },
    /** Take one of the numbers that it may be. */
    choose: (figure: number) => {
      setKept(null);
      onChange(fromShown(figure, family, system));
    },
    /** Give up what was refused. */
    giveUp: () => setKept(null),
    nudge: (steps: number) => {
      if (value === null) return;
      const step = 10 ** -Math.min(places, 1) * steps;
      setKept(null);
      onChange(fromShown(Number((toShown(value, family, system) + step).toFixed(places)), family, system));
    },
  };
}

function troubleOf(text: string, onClear: (() => void) | undefined): Trouble | null {
  const reading = readNumber(text);
  if (reading.kind === "empty") return onClear ? null : { kind: "empty" };
  if (reading.kind === "unclear") return { kind: "unclear", text, values: reading.values };
  return reading.kind === "nonsense" ? { kind: "nonsense", text } : null;
}

/** A limit that the server tells in the document's units, its numbers in the user's. */
export function limitText(limit: string, family: Family, system: System): string {
  if (system === "metric") return limit;
  return limit.replace(/-?\d+(?:\.\d+)?/g, (found) =>
    String(Number(toShown(Number(found), family, system).toPrecision(4))),
  );
}
