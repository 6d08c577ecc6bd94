/** Parts of the plan copied beside themselves. */
import type { Design } from "../../api/types";
import { placeIdOf } from "../../shared/ground";
import { freeNumber } from "../../shared/names";
import type { Spot } from "../../shared/way";
import { cm } from "./stand";

interface Named {
  id: string;
  name?: string | null;
}

const copyName = (part: Named) => `${part.name ?? part.id} (copy)`.slice(0, 120);

/** Copy parts with their places, so far off; lines between copied places come along. Return the new ids. */
export function copyParts(draft: Design, ids: readonly string[], [dx, dy]: Spot): string[] {
  const picked = new Set(ids);
  const lineEnds = (draft.lines ?? [])
    .filter((line) => picked.has(line.id))
    .flatMap((line) => [line.from, line.to]);
  const places = new Set([...ids, ...lineEnds].map((id) => placeIdOf(draft, id)));
  const made: string[] = [];
  const fresh = new Map<string, string>();
  const give = <Part extends Named>(list: Part[], part: Part, kind: string): Part => {
    const id = `${kind}-${freeNumber(list, kind)}`;
    fresh.set(part.id, id);
    const copy = { ...(JSON.parse(JSON.stringify(part)) as Part), id, name: copyName(part) };
    list.push(copy);
    return list.at(-1) ?? copy;
  };
  for (const place of [...draft.places]) {
    if (!places.has(place.id)) continue;
    const copy = give(draft.places, place, "place");
    [copy.east_m, copy.north_m] = [cm(place.east_m + dx), cm(place.north_m + dy)];
    delete copy.height_error_m;
    delete copy.height_from;
  }
  for (const vessel of [...(draft.vessels ?? [])])
    if (places.has(vessel.place))
      give(draft.vessels ?? [], vessel, "vessel").place = fresh.get(vessel.place) ?? "";
  for (const outlet of [...(draft.outlets ?? [])]) {
    if (!places.has(outlet.place)) continue;
    const copy = give(draft.outlets ?? [], outlet, "outlet");
    copy.place = fresh.get(outlet.place) ?? "";
    if (copy.fills) copy.fills = fresh.get(copy.fills) ?? null;
    const wanted = draft.requirements?.find((one) => one.outlet === outlet.id);
    if (wanted) draft.requirements?.push({ ...wanted, outlet: copy.id });
  }
  for (const line of [...(draft.lines ?? [])]) {
    const [from, to] = [fresh.get(line.from), fresh.get(line.to)];
    if (!from || !to) continue;
    const copy = give(draft.lines ?? [], line, "line");
    [copy.from, copy.to] = [from, to];
    if (copy.way) copy.way = copy.way.map(([x = 0, y = 0]) => [cm(x + dx), cm(y + dy)]);
  }
  for (const id of ids) made.push(fresh.get(id) ?? "");
  return made.filter(Boolean);
}
