import type { Design, Fault } from "../../api/types";

/** Change the document; changes with the same key in a row are one step of undo. */
export type Edit = (key: string, recipe: (draft: Design) => void) => void;

/** Return what the server said of the figure at a JSON pointer of the document. */
export function faultAt(faults: Fault[], path: string): string | undefined {
  const found = faults.find((fault) => fault.path.endsWith(path));
  return found && `allowed: ${found.limit}`;
}

/** Two fields in a row. */
export const PAIR = { display: "grid", gridTemplateColumns: "1fr 1fr", columnGap: 4, rowGap: 2 } as const;
