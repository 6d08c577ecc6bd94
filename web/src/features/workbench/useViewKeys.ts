import { useEffect } from "react";
import { useNavigate } from "react-router";

import { VIEWS, type View } from "./model";
import { isTyping } from "./useLinesKeys";

const OTHERS: Record<string, View> = { Y: "day", O: "log", X: "options" };

/** Shift and a letter open a view: the first one of its name; Y the Day, O the Log and X the Options, whose letters are others’. */
export function useViewKeys(designId: string): void {
  const navigate = useNavigate();
  useEffect(() => {
    const keys = (event: KeyboardEvent) => {
      if (!event.shiftKey || event.ctrlKey || event.metaKey || event.altKey || isTyping(event)) return;
      const letter = event.key.toUpperCase();
      const named = OTHERS[letter];
      const view = named
        ? VIEWS.find((one) => one.view === named)
        : VIEWS.find(({ title }) => title.startsWith(letter));
      if (!view || event.key.length > 1) return;
      event.preventDefault();
      void navigate(`/designs/${designId}/${view.view}`);
    };
    window.addEventListener("keydown", keys);
    return () => window.removeEventListener("keydown", keys);
  }, [designId, navigate]);
}
