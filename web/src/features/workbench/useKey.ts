import { useEffect, useEffectEvent } from "react";

import { isTyping } from "./useLinesKeys";

/** Do something when a key is pressed outside of fields and dialogs. */
export function useKey(key: string, act: () => void): void {
  const acting = useEffectEvent(act);
  useEffect(() => {
    const pressed = (event: KeyboardEvent) => {
      if (event.key !== key || isTyping(event) || event.ctrlKey || event.metaKey || event.altKey) return;
      event.preventDefault();
      acting();
    };
    window.addEventListener("keydown", pressed);
    return () => window.removeEventListener("keydown", pressed);
  }, [key]);
}
