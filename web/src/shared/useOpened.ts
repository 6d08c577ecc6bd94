import { useState } from "react";

/** Which row of an overview is open; one that was just added opens by itself. */
export function useOpened(ids: string[]): [string | null, (id: string | null) => void] {
  const [open, setOpen] = useState<string | null>(null);
  const [known, setKnown] = useState(ids);
  if (ids.length !== known.length || ids.some((id, index) => id !== known[index])) {
    const added = ids.filter((id) => !known.includes(id));
    if (added.length === 1 && ids.length > known.length) setOpen(added[0] ?? null);
    setKnown(ids);
  }
  return [open !== null && ids.includes(open) ? open : null, setOpen];
}
