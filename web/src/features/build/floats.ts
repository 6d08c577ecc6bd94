/** What people measure of a float and of its vessel, as changes of the plan. */
import type { setOutFloats } from "../../api/client";
import type { Design, FloatValveOutlet, Vessel } from "../../api/types";

export type FloatsSet = Awaited<ReturnType<typeof setOutFloats>>;
export type Mount = NonNullable<FloatValveOutlet["mount"]>;
export type Thing = NonNullable<Vessel["inside"]>[number];
export type Tap = NonNullable<Vessel["taps"]>[number];
export type MountLength = "pin_mm" | "arm_mm" | "float_mm" | "aside_mm";

export const THINGS: readonly { value: Thing["kind"]; text: string }[] = [
  { value: "pump", text: "pump" },
  { value: "skimmer", text: "skimmer" },
  { value: "roots", text: "roots" },
  { value: "basket", text: "basket" },
  { value: "other", text: "something else" },
];

/** The float valve of a plan by its id. */
export function valveOf(document: Design, id: string): FloatValveOutlet | null {
  const found = document.outlets?.find((one) => one.id === id);
  return found?.kind === "float_valve" ? found : null;
}

/** Change how a valve is mounted; a figure that is null is not known any more. */
export function mounted(
  draft: Design,
  id: string,
  change: { [Key in keyof Mount]?: Mount[Key] | null },
): void {
  const valve = valveOf(draft, id);
  if (!valve) return;
  const entries = Object.entries({ ...valve.mount, ...change }).filter(([, value]) => value != null);
  valve.mount = Object.fromEntries(entries) as Mount;
}

/** Change a vessel of the plan. */
export function vesselChanged(draft: Design, id: string, recipe: (vessel: Vessel) => void): void {
  const vessel = draft.vessels?.find((one) => one.id === id);
  if (vessel) recipe(vessel);
}

/** Change one of the things in a vessel; a figure that is null is not known any more. */
export function thingChanged(
  draft: Design,
  id: string,
  index: number,
  change: { [Key in keyof Thing]?: Thing[Key] | null },
): void {
  vesselChanged(draft, id, (vessel) => {
    const thing = vessel.inside?.[index];
    if (!thing || !vessel.inside) return;
    const entries = Object.entries({ ...thing, ...change }).filter(([, value]) => value != null);
    vessel.inside[index] = Object.fromEntries(entries) as unknown as Thing;
  });
}
