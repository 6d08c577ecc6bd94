/** Parts of the page that are fetched apart: when they are asked for, or before, as soon as there is time. */
import { useEffect, useState } from "react";

export interface Later<Part> {
  fetch: () => Promise<Part>;
  /** what is here already */
  fetched: () => Part | null;
}

const all: Later<unknown>[] = [];

/** A part that is fetched once; where that fails, again when it is asked for the next time. */
export function later<Part>(load: () => Promise<Part>): Later<Part> {
  let held: Part | null = null;
  const one = { fetch: async () => (held ??= await load()), fetched: () => held };
  all.push(one);
  return one;
}

/** Fetch every part one after another, so that a connection that is lost later takes none of them away. */
export async function fetchAhead(): Promise<void> {
  for (const one of all) await one.fetch().catch(() => null); // it says so itself where it is asked for
}

/** A part as soon as it is here, and whether fetching it failed. */
export function useLater<Part>(one: Later<Part>): { part: Part | null; lost: boolean; again: () => void } {
  const [held, hold] = useState(() => ({ part: one.fetched() })); // a part may be a function: it stands in an object
  const [lost, setLost] = useState(false);
  const [tries, setTries] = useState(0);
  useEffect(() => {
    let here = true;
    one.fetch().then(
      (part) => here && hold({ part }),
      () => here && setLost(true),
    );
    return () => void (here = false);
  }, [one, tries]);
  const again = () => {
    setLost(false);
    setTries(tries + 1);
  };
  return { part: held.part, lost, again };
}
