/** The design that is open: its document, its history, and how its saving stands. */
import { create } from "zustand";
import { freeze, produce } from "immer";

import type { Conflict, Design, DesignEdit, Fault, Revision } from "../../api/types";
import { showEdit } from "../../shared/showEdit";
import type { Together } from "../../shared/route";
import type { Draft } from "./drafts";

/** What the right-hand column shows. */
export type Side = "details" | "findings";

export type Saving =
  | { state: "saved" }
  | { state: "waiting" }
  | { state: "saving" }
  | { state: "failed"; why: string }
  | { state: "refused"; faults: Fault[] }
  | { state: "conflict"; conflict: Conflict };

export interface Trial {
  before: Design;
  texts: string[];
}

/** Edits that the server is making, or that wait until the hand rests. */
export interface Pending {
  /** what they are made in */
  base: Design;
  edits: DesignEdit[];
  /** how many of them were asked for before the step in hand */
  before: number;
  key: string;
  /** they belong to the step that is the last one already */
  merged: boolean;
  /** the hand is still on it */
  dragging: boolean;
  ended: boolean;
  then: ((made: string[]) => void) | null;
  /** why they are not made yet */
  why: string | null;
}

export interface Asked {
  then?: (made: string[]) => void;
  /** each adds to the one before, as a nudge does */
  relative?: boolean;
}

export interface Bench {
  designId: string | null;
  baseNumber: number;
  document: Design | null;
  past: Design[];
  future: Design[];
  /** edits with the same key in a row are one step of undo */
  lastKey: string | null;
  saving: Saving;
  /** a change that is tried: what stood before, and what it is; nothing is saved until it is kept */
  trial: Trial | null;
  pending: Pending | null;
  /** what the last edits brought with them, or why they were refused */
  notes: string[];
  selected: string | null;
  /** what is chosen beside it */
  also: string[];
  cursorM: number | null;
  /** which outlets draw in the pictures */
  together: Together;
  /** what the right-hand column shows */
  side: Side;

  /** Open a revision, with what this tab kept of the plan beyond it. */
  open: (revision: Revision, draft?: Draft | null) => void;
  edit: (key: string, recipe: (draft: Design) => void) => void;
  /** Have the server make edits; those with the same key in a row are one step, made in what stood before it. */
  apply: (key: string, edits: DesignEdit[], asked?: Asked) => void;
  /** The same while a hand is on it: it is shown at once, and made when the step ends. */
  drag: (key: string, edits: DesignEdit[]) => void;
  /** Have what is dragged made though the hand is still on it. */
  restDrag: () => void;
  editsMade: (pending: Pending, document: Design, made: string[], notes: string[]) => void;
  editsRefused: (why: string) => void;
  editsWait: (why: string) => void;
  dropNotes: () => void;
  replace: (document: Design) => void;
  tryOut: (document: Design, text: string) => void;
  keepTrial: () => void;
  dropTrial: () => void;
  endStep: () => void;
  undo: () => void;
  redo: () => void;
  setSaving: (saving: Saving) => void;
  savedAs: (number: number, document: Design) => void;
  rebase: (number: number) => void;
  /** Choose a part, and show its details. */
  select: (id: string | null) => void;
  /** Choose a part where it is spoken of: the right-hand column stays as it is. */
  point: (id: string) => void;
  setSide: (side: Side) => void;
  /** add a part to the selection, or take it out again */
  selectAlso: (id: string) => void;
  selectAll: (ids: string[]) => void;
  setCursor: (atM: number | null) => void;
  setTogether: (together: Together) => void;
}

const DEPTH = 500;

export const useBench = create<Bench>()((set, get) => {
  const step = (next: Design, key: string | null) => {
    const { document, past, lastKey, trial } = get();
    if (!document || next === document) return;
    const merged = key !== null && key === lastKey;
    const kept = trial ? [...past, trial.before] : past; // who goes on with what is tried has kept it
    set({
      document: next,
      past: merged ? kept : [...kept, document].slice(-DEPTH),
      future: [],
      lastKey: key,
      trial: null,
      saving: { state: "waiting" },
    });
  };
  return {
    designId: null,
    baseNumber: 0,
    document: null,
    past: [],
    future: [],
    lastKey: null,
    saving: { state: "saved" },
    trial: null,
    pending: null,
    notes: [],
    selected: null,
    also: [],
    cursorM: null,
    together: "together",
    side: "findings",

    open: (revision, draft = null) => {
      const unsaved = draft !== null && !draft.saved && draft.baseNumber <= revision.number;
      const own = unsaved || draft?.baseNumber === revision.number ? draft : null;
      set({
        designId: revision.design_id,
        baseNumber: own?.baseNumber ?? revision.number, // where another tab has saved since, the user is asked
        document: freeze(own?.document ?? revision.document, true),
        past: own ? freeze(own.past, true) : [],
        future: own ? freeze(own.future, true) : [],
        lastKey: null,
        saving: { state: unsaved ? "waiting" : "saved" },
        trial: null,
        pending: own?.pending
          ? { ...own.pending, before: 0, dragging: false, ended: true, then: null, why: null }
          : null,
        notes:
          unsaved && draft.baseNumber === revision.number
            ? ["What was not saved yet when this page was left is back."]
            : [],
        selected: null,
        also: [],
        cursorM: null,
        side: "findings",
      });
    },
    edit: (key, recipe) => {
      const { document, pending } = get();
      if (!document) return;
      if (!pending) step(produce(document, recipe), key);
      else
        set({
          document: produce(document, recipe),
          pending: { ...pending, base: produce(pending.base, recipe) },
        });
    },
    apply: (key, edits, { then, relative = false } = {}) => {
      const { document, past, lastKey, pending } = get();
      if (!document) return;
      const merged = pending ? pending.merged : key === lastKey && past.length > 0;
      const base = pending?.base ?? (merged && !relative ? past.at(-1) : null) ?? document;
      const before =
        pending?.key === key && !relative ? pending.edits.slice(0, pending.before) : (pending?.edits ?? []);
      set({
        document: produce(document, (draft) => edits.forEach((edit) => showEdit(draft, edit))),
        pending: {
          base,
          edits: [...before, ...edits],
          before: before.length,
          key,
          merged,
          dragging: false,
          ended: false,
          then: then ?? null,
          why: null,
        },
        notes: [],
      });
    },
    drag: (key, edits) => {
      get().apply(key, edits);
      set(({ pending }) => (pending ? { pending: { ...pending, dragging: true } } : {}));
    },
    restDrag: () => set(({ pending }) => (pending ? { pending: { ...pending, dragging: false } } : {})),
    editsMade: (made, next, ids, notes) => {
      const { pending, past, trial } = get();
      if (pending !== made) return; // more was asked meanwhile
      const kept = trial ? [...past, trial.before] : past;
      set({
        document: freeze(next, true),
        past: pending.merged ? kept : [...kept, pending.base].slice(-DEPTH),
        future: [],
        lastKey: pending.ended ? null : pending.key,
        trial: null,
        pending: null,
        notes,
        saving: { state: "waiting" },
      });
      pending.then?.(ids);
    },
    editsRefused: (why) => {
      get().undo();
      set({ notes: [why] });
    },
    editsWait: (why) => set(({ pending }) => (pending ? { pending: { ...pending, why } } : {})),
    dropNotes: () => set({ notes: [] }),
    replace: (document) => {
      set({ pending: null });
      step(freeze(document, true), null);
    },
    tryOut: (document, text) =>
      set(({ document: now, trial }) => {
        if (!now) return {};
        const texts = [...(trial?.texts ?? []), text];
        return {
          document: freeze(document, true),
          trial: { before: trial?.before ?? now, texts },
          lastKey: null,
        };
      }),
    keepTrial: () =>
      set(({ past, trial }) =>
        trial
          ? {
              past: [...past, trial.before].slice(-DEPTH),
              future: [],
              trial: null,
              saving: { state: "waiting" },
            }
          : {},
      ),
    dropTrial: () =>
      set(({ trial }) => (trial ? { document: trial.before, trial: null, lastKey: null } : {})),
    endStep: () =>
      set(({ pending }) =>
        pending ? { pending: { ...pending, dragging: false, ended: true } } : { lastKey: null },
      ),
    undo: () => {
      const { past, future, document, trial, dropTrial, pending } = get();
      if (pending) {
        const back = past.at(-1) === pending.base ? past.slice(0, -1) : past;
        set({ document: pending.base, past: back, pending: null, lastKey: null });
        return;
      }
      if (trial) {
        dropTrial();
        return;
      }
      const before = past.at(-1);
      if (!before || !document) return;
      set({
        document: before,
        past: past.slice(0, -1),
        future: [document, ...future],
        lastKey: null,
        saving: { state: "waiting" },
      });
    },
    redo: () => {
      const { past, future, document, trial } = get();
      if (trial) return;
      const after = future[0];
      if (!after || !document) return;
      set({
        document: after,
        past: [...past, document],
        future: future.slice(1),
        lastKey: null,
        saving: { state: "waiting" },
      });
    },
    setSaving: (saving) => set({ saving }),
    savedAs: (number, saved) =>
      set(({ document }) => ({
        baseNumber: number,
        saving: { state: document === saved ? "saved" : "waiting" },
      })),
    rebase: (number) => set({ baseNumber: number, saving: { state: "waiting" } }),
    select: (id) => set({ selected: id, also: [], side: id === null ? "findings" : "details" }),
    point: (id) => set({ selected: id, also: [] }),
    setSide: (side) => set({ side }),
    selectAlso: (id) =>
      set(({ selected, also }) => {
        const now = selected === null ? [] : [selected, ...also];
        const [first = null, ...rest] = now.includes(id) ? now.filter((one) => one !== id) : [...now, id];
        return { selected: first, also: rest, side: "details" };
      }),
    selectAll: ([first = null, ...rest]) =>
      set({ selected: first, also: rest, side: first === null ? "findings" : "details" }),
    setCursor: (atM) => set({ cursorM: atM }),
    setTogether: (together) => set({ together }),
  };
});
