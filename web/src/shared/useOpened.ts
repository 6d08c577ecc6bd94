import { useEffect, useRef, useState } from "react";

/** Which row of an overview is open; one that was just added opens by itself, and has the focus. */
export function useOpened(ids: string[]): [string | null, (id: string | null) => void] {
  const [open, setOpen] = useState<string | null>(null);
  const [known, setKnown] = useState(ids);
  const added = useRef<string | null>(null);
  if (ids.length !== known.length || ids.some((id, index) => id !== known[index])) {
    const fresh = ids.filter((id) => !known.includes(id));
    if (fresh.length === 1 && ids.length > known.length) setOpen(fresh[0] ?? null);
    setKnown(ids);
  }
  const shown = open !== null && ids.includes(open) ? open : null;
  useEffect(() => {
    const before = added.current;
    added.current = shown;
    if (shown === null || shown === before) return;
    const button = window.document.querySelector<HTMLElement>(
      `[data-testid="row-${CSS.escape(shown)}"] button`,
    );
    if (button && !button.contains(window.document.activeElement)) button.focus();
  }, [shown]);
  return [shown, setOpen];
}
