import type { Design } from "../../api/types";

/** Change the document; changes with the same key in a row are one step of undo. */
export type Edit = (key: string, recipe: (draft: Design) => void) => void;

/** Two fields in a row. */
export const PAIR = { display: "grid", gridTemplateColumns: "1fr 1fr", columnGap: 4, rowGap: 2 } as const;
