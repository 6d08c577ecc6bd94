import type { Analysis, Catalogue, Design, Fault } from "../../api/types";

/** Change the document; changes with the same key in a row are one step of undo. */
export type Edit = (key: string, recipe: (draft: Design) => void) => void;

/** What the sheet and each of its tabs are given. */
export interface SheetProps {
  document: Design;
  analysis: Analysis | null;
  catalogue: Catalogue | undefined;
  faults: Fault[];
  selected: string | null;
  onSelect: (id: string | null) => void;
  edit: Edit;
  onDone: () => void;
  /** take what is chosen off the plan */
  onRemove: () => void;
  /** try a change of the plan: nothing is saved until it is kept */
  onTry: (document: Design, text: string) => void;
  /** how many parts are chosen beside this one */
  more: number;
}

/** Two fields in a row. */
export const PAIR = { display: "grid", gridTemplateColumns: "1fr 1fr", columnGap: 4, rowGap: 2 } as const;
