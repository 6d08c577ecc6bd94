/** What is looked at on a round, and what is asked of each. */
import type { Design, Vessel } from "../../api/types";

type Value = string | boolean;
export type Answers = Partial<Record<(typeof QUESTIONS)[number]["key"], Value>>;

export const QUESTIONS: readonly {
  key: "level" | "running" | "clean" | "animals";
  text: string;
  answers: readonly { text: string; value: Value }[];
}[] = [
  {
    key: "level",
    text: "Water",
    answers: [
      { text: "Full", value: "full" },
      { text: "Low", value: "low" },
      { text: "Dry", value: "dry" },
    ],
  },
  {
    key: "running",
    text: "Valve",
    answers: [
      { text: "Shut", value: false },
      { text: "Running", value: true },
    ],
  },
  {
    key: "clean",
    text: "Clean?",
    answers: [
      { text: "Clean", value: true },
      { text: "Scrub", value: false },
    ],
  },
  {
    key: "animals",
    text: "Animals",
    answers: [
      { text: "All here", value: "all" },
      { text: "Some", value: "some" },
      { text: "None", value: "none" },
    ],
  },
];

/** The vessels that floats fill, by the shortest walk from one to the next, from the first of the plan on. */
export function lookedAt(document: Design): Vessel[] {
  const filled = new Set(document.outlets?.map((outlet) => outlet.fills));
  const places = new Map(document.places.map((place) => [place.id, place]));
  const left = (document.vessels ?? []).filter(({ id, role }) => role === "trough" || filled.has(id));
  const way: Vessel[] = [];
  let here = left.shift();
  while (here) {
    way.push(here);
    const from = places.get(here.place);
    const far = (vessel: Vessel) => {
      const to = places.get(vessel.place);
      return from && to ? Math.hypot(to.east_m - from.east_m, to.north_m - from.north_m) : Infinity;
    };
    left.sort((a, b) => far(a) - far(b));
    here = left.shift();
  }
  return way;
}

/** How long ago something was, in the largest unit that has one: "14 h". */
export function agoText(when: string, now: number): string {
  const minutes = Math.max(0, Math.round((now - Date.parse(when)) / 60_000));
  if (minutes < 90) return `${minutes} min`;
  const hours = Math.round(minutes / 60);
  return hours < 48 ? `${hours} h` : `${Math.round(hours / 24)} days`;
}

/** Where trouble at a vessel is looked into: at the outlet that fills it. */
export function troubleAt(document: Design, vessel: string): string {
  const outlet = document.outlets?.find(({ fills }) => fills === vessel)?.id ?? "";
  return `?${new URLSearchParams({ page: "trouble", part: outlet }).toString()}`;
}
