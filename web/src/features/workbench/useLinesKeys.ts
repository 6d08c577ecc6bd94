/** Keys of the lines' view: letters take a tool, arrows nudge, Enter types, Delete takes away. */
import { useEffect } from "react";

import { ARROWS, FAST } from "../../shared/arrows";
import type { Spot } from "../../shared/way";
import { TOOLS } from "./ToolBar";
import type { Tool } from "../plan";

interface Acts {
  tool: Tool | null;
  chosen: readonly string[];
  take: (tool: Tool | null) => void;
  nudge: (by: Spot) => void;
  remove: () => void;
  copy: () => void;
  chooseAll: () => void;
  unchoose: () => void;
}

/** What is typed in fields, dialogs and the section's slider is theirs. */
export const isTyping = (event: KeyboardEvent): boolean =>
  event.target instanceof HTMLElement &&
  event.target.closest("input, select, textarea, [role=dialog], [role=slider]") !== null;

/** Put the focus on the exact place of what is chosen. */
function typeExactly(): void {
  const field = document.querySelector<HTMLInputElement>("[data-exact] input");
  field?.closest("details")?.setAttribute("open", "");
  field?.focus();
}

export function useLinesKeys(acts: Acts) {
  useEffect(() => {
    const keys = (event: KeyboardEvent) => {
      if (isTyping(event) || event.altKey) return;
      const { tool, chosen } = acts;
      const key = event.key.toLowerCase();
      const arrow = ARROWS[event.key];
      const taken = event.shiftKey ? undefined : TOOLS.find((one) => one.key.toLowerCase() === key);
      if (event.ctrlKey || event.metaKey) {
        if (key === "d" && chosen.length) acts.copy();
        else if (key === "a") acts.chooseAll();
        else return;
      } else if (taken) acts.take(taken.tool);
      else if (event.key === "Escape") {
        if (tool) acts.take(null);
        else acts.unchoose();
      } else if (tool)
        return; // arrows and Enter are the crosshair's
      else if (event.key === "Delete" && chosen.length) acts.remove();
      else if (arrow && chosen.length) {
        const step = event.shiftKey ? FAST : 1;
        acts.nudge([arrow[0] * step, arrow[1] * step]);
      } else if (
        event.key === "Enter" &&
        chosen.length &&
        !(event.target as HTMLElement).closest("button, a")
      )
        typeExactly();
      else return;
      event.preventDefault();
    };
    window.addEventListener("keydown", keys);
    return () => window.removeEventListener("keydown", keys);
  });
}
