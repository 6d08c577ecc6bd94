import { useEffect } from "react";
import { useNavigate } from "react-router";

import { VIEWS } from "./model";
import { isTyping } from "./useLinesKeys";

/** Shift and a letter open a view: the first one of its name, and Y the Day, since D is Demand's. */
export function useViewKeys(designId: string): void {
  const navigate = useNavigate();
  useEffect(() => {
    const keys = (event: KeyboardEvent) => {
      if (!event.shiftKey || event.ctrlKey || event.metaKey || event.altKey || isTyping(event)) return;
      const letter = event.key.toUpperCase();
      const view =
        letter === "Y"
          ? VIEWS.find((one) => one.view === "day")
          : VIEWS.find(({ title }) => title.startsWith(letter));
      if (!view || event.key.length > 1) return;
      event.preventDefault();
      void navigate(`/designs/${designId}/${view.view}`);
    };
    window.addEventListener("keydown", keys);
    return () => window.removeEventListener("keydown", keys);
  }, [designId, navigate]);
}
