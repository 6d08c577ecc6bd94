/** The round of a look: which troughs, in which order, how long ago. */
import { expect, test } from "vitest";

import type { Design } from "../../api/types";
import { agoText, lookedAt } from "./look";

const vessel = (id: string, role: string, place: string) => ({ id, role, place });
const place = (id: string, east_m: number) => ({ id, east_m, north_m: 0, ground_m: 0 });

test("troughs and what floats fill, each next the nearest that is left", () => {
  const document = {
    places: [place("a", 0), place("b", 500), place("c", 100), place("d", 130), place("e", 50)],
    vessels: [
      vessel("tank", "tank", "e"),
      vessel("one", "trough", "a"),
      vessel("far", "trough", "b"),
      vessel("near", "trough", "c"),
      vessel("pond", "pond", "d"),
    ],
    outlets: [{ id: "v", fills: "pond" }],
  } as unknown as Design;
  expect(lookedAt(document).map(({ id }) => id)).toEqual(["one", "near", "pond", "far"]);
});

test.each([
  [0.4, "0 min"],
  [89, "89 min"],
  [90, "2 h"],
  [14 * 60, "14 h"],
  [5 * 24 * 60, "5 days"],
])("%f minutes ago is %s", (minutes, text) => {
  const now = Date.parse("2026-05-20T06:40:00Z");
  expect(agoText(new Date(now - minutes * 60_000).toISOString(), now)).toBe(text);
});
