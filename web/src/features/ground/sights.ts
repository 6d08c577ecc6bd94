/** Sights: what each way is called, and the lengths that are counted. */
import type { DesignEdit, Distance, Sight } from "../../api/types";

export type Kind = Sight["kind"];

export const WAYS: Record<Kind, { name: string; start: string; hint: string }> = {
  hose_level: {
    name: "Hose level",
    start: "Hose level",
    hint: "Hold both ends up, let the water settle without bubbles, and read its height above the ground at each end.",
  },
  clinometer: {
    name: "Clinometer and paces",
    start: "Clinometer and paces",
    hint: "Sight at a mark at your eye height, up and back down: the mean cancels the instrument's error.",
  },
  barometer: {
    name: "Barometer walk",
    start: "Barometer walk",
    hint: "Read at the start, at each place, and at the start again: the change of the weather is removed by the minute.",
  },
  satellite: {
    name: "Phone or satellite height",
    start: "Phone height",
    hint: "Phones often give heights above an ellipsoid, tens of metres off those of a map, but differences are right.",
  },
  contour: {
    name: "Contour map",
    start: "Height from a map",
    hint: "Between two contours a height is known to about half their spacing.",
  },
  grid: { name: "Height grid", start: "Height grid", hint: "" },
  timed_flow: {
    name: "Timed flow",
    start: "Timed flow",
    hint: "A pail under one outlet, all others shut, its float held down: a check of the head, not a height.",
  },
};

/** The ways that a reading can be started in by hand. */
export const BY_HAND: Extract<DesignEdit, { kind: "add_sight" }>["way"][] = [
  "hose_level",
  "clinometer",
  "barometer",
  "satellite",
  "contour",
  "timed_flow",
];

export const COUNTED: Record<Distance["kind"], { name: string; each: string }> = {
  posts: { name: "fence posts", each: "From post to post" },
  rolls: { name: "whole pipe rolls", each: "One roll" },
  paces: { name: "paces", each: "" },
  tape: { name: "a tape", each: "" },
  track: { name: "a walked track", each: "" },
};
