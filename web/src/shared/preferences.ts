/** What one person chose for this browser: units. Light or dark is MUI's own. */
import { create } from "zustand";
import { persist } from "zustand/middleware";

import type { System } from "./units";

interface Preferences {
  system: System;
  setSystem: (system: System) => void;
}

export const usePreferences = create<Preferences>()(
  persist((set) => ({ system: "metric", setSystem: (system) => set({ system }) }), {
    name: "leadsman-preferences",
  }),
);
