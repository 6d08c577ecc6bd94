/** Parts taken off the plan, with what cannot be without them; what would be left hanging keeps them. */
import type { Design } from "../../api/types";
import { named } from "../../shared/names";
import { joinable, joinLines } from "./split";

/** Why parts cannot be taken away, in words; nothing where they can. */
export function whatHolds(document: Design, ids: readonly string[]): string[] {
  const gone = new Set(withTheirs(document, ids));
  const why: string[] = [];
  const held = (what: string, users: { id: string; name?: string | null }[]) => {
    if (users.length) why.push(`${users.map(named).join(", ")} ${what}`);
  };
  held(
    "would have no water: give other water first",
    [...(document.herds ?? []), ...(document.paddocks ?? []), ...(document.crops ?? [])].filter((one) =>
      gone.has(one.outlet),
    ),
  );
  for (const rotation of document.calendar ?? [])
    if ((rotation.outlets ?? []).some((outlet) => gone.has(outlet)))
      why.push("the grazing calendar leads a herd there: change it first");
  for (const place of document.places.filter((one) => gone.has(one.id))) {
    const ends = (document.lines ?? []).filter(
      (line) => !gone.has(line.id) && (line.from === place.id || line.to === place.id),
    );
    if (ends.length && !(ids.length === 1 && joinable(document, place.id)))
      why.push(`${named(place)} joins ${ends.map(named).join(", ")}: take those lines away first`);
    if (measured(document, place.id)) why.push(`${named(place)} stands in what was measured`);
  }
  if (document.places.every((place) => gone.has(place.id))) why.push("a plan has at least one place");
  return why;
}

function measured(document: Design, placeId: string): boolean {
  const read = [...(document.books ?? []), ...(document.sights ?? [])] as unknown[];
  return document.bench === placeId || JSON.stringify(read).includes(`"${placeId}"`);
}

/** Parts with those that mean nothing without them: the float of a trough, the trough of a float. */
function withTheirs(document: Design, ids: readonly string[]): string[] {
  const gone = new Set(ids);
  for (const outlet of document.outlets ?? []) {
    if (outlet.fills && (gone.has(outlet.id) || gone.has(outlet.fills))) {
      const trough = document.vessels?.find((vessel) => vessel.id === outlet.fills)?.role === "trough";
      if (gone.has(outlet.fills) || trough) gone.add(outlet.id);
      if (trough) gone.add(outlet.fills);
    }
  }
  return [...gone];
}

/** Take parts off the plan; where something holds them, nothing is taken. Lines to a vessel or outlet end at its place. */
export function removeParts(draft: Design, ids: readonly string[]): boolean {
  if (whatHolds(draft, ids).length) return false;
  const gone = new Set(withTheirs(draft, ids));
  const stood = [...(draft.vessels ?? []), ...(draft.outlets ?? [])].filter((part) => gone.has(part.id));
  const placeOf = new Map(stood.map((part) => [part.id, part.place]));
  for (const place of ids) joinLines(draft, place);
  const keep = <Part extends { id: string }>(parts: Part[] | undefined) =>
    parts?.filter((part) => !gone.has(part.id));
  const lines = keep(draft.lines);
  if (lines) {
    for (const line of lines) {
      line.from = placeOf.get(line.from) ?? line.from;
      line.to = placeOf.get(line.to) ?? line.to;
    }
    draft.lines = lines.filter((line) => line.from !== line.to);
  }
  const lost = new Set(
    (draft.inflows ?? []).flatMap((one) => (one.fills && gone.has(one.fills) ? [one.id] : [])),
  );
  if (draft.vessels) draft.vessels = keep(draft.vessels) ?? [];
  if (draft.outlets) draft.outlets = keep(draft.outlets) ?? [];
  if (draft.paddocks) draft.paddocks = keep(draft.paddocks) ?? [];
  if (draft.inflows) draft.inflows = draft.inflows.filter((one) => !lost.has(one.id));
  if (draft.ponds) draft.ponds = draft.ponds.filter((one) => !gone.has(one.vessel));
  if (draft.distances) draft.distances = draft.distances.filter((one) => !gone.has(one.line));
  if (draft.requirements)
    draft.requirements = draft.requirements.filter(
      (one) => ![one.outlet, one.place, one.vessel].some((id) => id != null && gone.has(id)),
    );
  for (const scenario of draft.scenarios ?? []) {
    for (const key of ["open", "shut"] as const)
      if (scenario[key]) scenario[key] = scenario[key].filter((id) => !gone.has(id));
    if (scenario.lost) scenario.lost = scenario.lost.filter((id) => !lost.has(id));
    if (scenario.levels_m)
      scenario.levels_m = Object.fromEntries(
        Object.entries(scenario.levels_m).filter(([id]) => !gone.has(id)),
      );
  }
  removeBarePlaces(draft, new Set([...ids.filter((id) => gone.has(id)), ...placeOf.values()]));
  return true;
}

/** Places on which nothing is left: no part, no line, no reading. */
function removeBarePlaces(draft: Design, candidates: ReadonlySet<string>): void {
  const used = new Set([
    ...[...(draft.vessels ?? []), ...(draft.outlets ?? [])].map((part) => part.place),
    ...(draft.lines ?? []).flatMap((line) => [line.from, line.to]),
    ...(draft.requirements ?? []).map((one) => one.place),
  ]);
  const bare = (id: string) => candidates.has(id) && !used.has(id) && !measured(draft, id);
  const left = draft.places.filter((place) => !bare(place.id));
  if (left.length) draft.places = left;
}
