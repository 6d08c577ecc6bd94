/** What one person chose for this browser: units, a name, what lies under the plan. Light or dark is MUI's own. */
import { create } from "zustand";
import { persist } from "zustand/middleware";

import type { System } from "./units";

/** What can be laid under the plan or over its paddocks. */
export type Layer = "relief" | "picture" | "paddocks" | "walk" | "hose";

export type Paper = "a4" | "us-letter";

interface Preferences {
  system: System;
  setSystem: (system: System) => void;
  /** what this person calls himself where he saves */
  name: string;
  setName: (name: string) => void;
  /** what is printed on; null where it goes by the units */
  paper: Paper | null;
  setPaper: (paper: Paper) => void;
  layers: Record<Layer, boolean>;
  setLayer: (layer: Layer, shown: boolean) => void;
}

export const usePreferences = create<Preferences>()(
  persist(
    (set) => ({
      system: "metric",
      setSystem: (system) => set({ system }),
      name: "",
      setName: (name) => set({ name }),
      paper: null,
      setPaper: (paper) => set({ paper }),
      layers: { relief: true, picture: true, paddocks: true, walk: false, hose: true },
      setLayer: (layer, shown) => set(({ layers }) => ({ layers: { ...layers, [layer]: shown } })),
    }),
    { name: "leadsman-preferences" },
  ),
);
