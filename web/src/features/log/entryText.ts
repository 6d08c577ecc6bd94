/** An entry of the log in words. */
import type { LogEntry } from "../../api/types";
import { QUESTIONS } from "./look";
import { quantityText, type System } from "../../shared/units";

const KINDS: Record<LogEntry["kind"], string> = {
  note: "Note",
  step: "Step",
  timing: "Timed",
  gauge: "Gauge",
  level: "Level",
  look: "Look",
  mend: "Mended",
  move: "Moved",
  service: "Service",
  trip: "Trip",
  photo: "Photo",
};

/** What was pressed on a round, as "Full, Running". */
const lookText = (entry: LogEntry): string =>
  QUESTIONS.flatMap(({ key, answers }) =>
    answers.filter(({ value }) => value === entry.figures?.[key]).map(({ text }) => text),
  ).join(", ");

/** What was done or measured, without who and when. */
export function entryText(entry: LogEntry, system: System): string {
  const {
    volume_l: litres,
    seconds,
    pressure_kpa: kpa,
    level_m: level,
    litres: hauled,
    minutes,
    step,
    step_told: told,
    ended,
  } = entry.figures ?? {};
  const figures = [
    typeof litres === "number" &&
      typeof seconds === "number" &&
      `${quantityText({ value: litres, unit: "L", digits: litres % 1 ? 1 : 0 }, system)} in ${seconds} s, ${quantityText({ value: (60 * litres) / seconds, unit: "L/min" }, system)}`,
    typeof kpa === "number" && quantityText({ value: kpa, unit: "kPa" }, system),
    typeof level === "number" && quantityText({ value: level, unit: "m" }, system),
    typeof hauled === "number" && quantityText({ value: hauled, unit: "L" }, system),
    typeof minutes === "number" && `${minutes} min`,
    typeof step === "string" &&
      `${typeof told === "string" ? told : step}${typeof ended === "string" ? `, ${ended}` : ""}`,
    entry.kind === "look" && lookText(entry),
  ].filter((text) => text !== false && text !== "");
  return [KINDS[entry.kind], figures.join("; "), entry.said].filter(Boolean).join(": ");
}

/** When it happened, in the words of where it is read. */
export const whenText = (entry: LogEntry): string =>
  new Date(entry.happened_at).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" });
