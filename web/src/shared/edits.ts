/** Changes of the plan that touch several of its parts: the server makes them. */
import { createContext, use } from "react";

import type { DesignEdit } from "../api/types";

export interface Edits {
  /** Make edits; those with the same key in a row are one step of undo. */
  apply: (
    key: string,
    edits: DesignEdit[],
    asked?: { then?: (made: string[]) => void; relative?: boolean },
  ) => void;
  /** The same while a hand is on it: made when the step ends. */
  drag: (key: string, edits: DesignEdit[]) => void;
}

const nowhere = () => undefined;

export const EditsContext = createContext<Edits>({ apply: nowhere, drag: nowhere });

export const useEdits = () => use(EditsContext);

/** The edit that deletes a part, with what means nothing without it. */
export const deleted = (id: string | undefined): DesignEdit[] =>
  id === undefined ? [] : [{ kind: "delete_parts", parts: [id] }];
