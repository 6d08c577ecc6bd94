/** What parts of the plan are called, and ids for new ones. */
import type { Design } from "../api/types";

/** An outlet as people call it: by the trough that it fills. */
export function troughName(document: Pick<Design, "outlets" | "vessels">, outletId: string): string {
  const outlet = document.outlets?.find((one) => one.id === outletId);
  const filled = document.vessels?.find((one) => one.id === outlet?.fills);
  return filled?.name ?? outlet?.name ?? outletId;
}

/** The same for many outlets of one design, which is walked only once. */
export function troughNames({
  outlets,
  vessels,
}: Pick<Design, "outlets" | "vessels">): (id: string) => string {
  const vesselNames = new Map(vessels?.map((one) => [one.id, one.name]));
  const names = new Map(
    outlets?.map((one) => [one.id, vesselNames.get(one.fills ?? "") ?? one.name ?? one.id]),
  );
  return (id) => names.get(id) ?? id;
}

export const named = (part: { id: string; name?: string | null }): string => part.name ?? part.id;

/** What the part with an id is called; its id where there is none. */
export const nameIn = (parts: { id: string; name?: string | null }[] | undefined, id: string): string =>
  named(parts?.find((one) => one.id === id) ?? { id });

/** What a part of any list is called. */
export function nameOfPart(document: Design, id: string): string {
  const lists = [
    document.places,
    document.vessels,
    document.lines,
    document.outlets,
    document.inflows,
    document.pressure_sources,
    document.herds,
  ] as const;
  for (const list of lists) {
    const found = list?.find((part: { id: string; name?: string | null }) => part.id === id);
    if (found) return named(found);
  }
  return id;
}
