/** How long what is being drawn is, so far; apart from the rest, since it follows the mouse. */
import { create } from "zustand";

import { wayLength, type Spot } from "../../shared/way";

interface Sketch {
  lengthM: number | null;
}

export const useSketch = create<Sketch>()(() => ({ lengthM: null }));

/** What is drawn so far, with the point under the hand; nothing where nothing is begun. */
export function sketched(way: Spot[] | null): void {
  useSketch.setState({ lengthM: way && way.length > 1 ? wayLength(way) : null });
}
