import { beforeEach, describe, expect, it } from "vitest";

import type { Design, Revision } from "../../api/types";
import { useBench } from "./store";

const document = (name: string): Design => ({
  format: "leadsman-design",
  version: 1,
  name,
  site: { name: "Tamsel Ridge" },
  places: [{ id: "a", east_m: 0, north_m: 0, ground_m: 1 }],
});
const revision = (number: number, name: string): Revision => ({
  design_id: "d",
  number,
  parent_number: null,
  standing: "kept",
  saved_at: "2026-01-01T00:00:00Z",
  document: document(name),
});
const bench = () => useBench.getState();
const ground = (metres: number, key = "ground") =>
  bench().edit(key, (draft) => {
    const place = draft.places[0];
    if (place) place.ground_m = metres;
  });
const now = () => bench().document?.places[0]?.ground_m;

beforeEach(() => bench().open(revision(1, "Plan")));

describe("undo and redo", () => {
  it("takes edits of one figure in a row as one step", () => {
    ground(2);
    ground(20);
    ground(200);
    bench().undo();
    expect(now()).toBe(1);
    bench().redo();
    expect(now()).toBe(200);
  });

  it("takes them apart once the figure was left, or another was changed between", () => {
    ground(2);
    bench().endStep();
    ground(3);
    ground(4, "other");
    bench().undo();
    expect(now()).toBe(3);
    bench().undo();
    expect(now()).toBe(2);
    bench().undo();
    bench().undo();
    expect(now()).toBe(1);
  });

  it("forgets what could be redone after a new edit", () => {
    ground(2);
    bench().undo();
    ground(5);
    bench().redo();
    expect(now()).toBe(5);
    expect(bench().future).toEqual([]);
  });

  it("does not count an edit that changes nothing", () => {
    ground(1);
    expect(bench().past).toHaveLength(0);
    expect(bench().saving.state).toBe("saved");
  });

  it("leaves the document it started from untouched", () => {
    const first = bench().document;
    ground(9);
    expect(first?.places[0]?.ground_m).toBe(1);
  });
});

describe("saving", () => {
  it("is waiting after each edit, undo and redo", () => {
    for (const change of [() => ground(2), () => bench().undo(), () => bench().redo()]) {
      bench().setSaving({ state: "saved" });
      change();
      expect(bench().saving.state).toBe("waiting");
    }
  });

  it("goes on waiting when something was edited while a save was on its way", () => {
    ground(2);
    const sent = bench().document;
    ground(3);
    if (sent) bench().savedAs(2, sent);
    expect([bench().baseNumber, bench().saving.state]).toEqual([2, "waiting"]);
    const newest = bench().document;
    if (newest) bench().savedAs(3, newest);
    expect([bench().baseNumber, bench().saving.state]).toEqual([3, "saved"]);
  });

  it("goes on from the other version's number after a conflict, with one's own figures", () => {
    ground(7);
    bench().rebase(5);
    expect([bench().baseNumber, now(), bench().saving.state]).toEqual([5, 7, "waiting"]);
    bench().open(revision(6, "Theirs"));
    expect([bench().baseNumber, now(), bench().past.length]).toEqual([6, 1, 0]);
  });
});

describe("what is chosen", () => {
  const chosen = () => [bench().selected, ...bench().also];

  it("is one part, several, or all of a box", () => {
    bench().select("a");
    bench().selectAlso("b");
    bench().selectAlso("c");
    expect(chosen()).toEqual(["a", "b", "c"]);
    bench().selectAlso("a");
    expect(chosen()).toEqual(["b", "c"]);
    bench().selectAll(["x", "y"]);
    expect(chosen()).toEqual(["x", "y"]);
    bench().select("z");
    expect(chosen()).toEqual(["z"]);
  });

  it("is nothing after the last one is left out, after an empty box, and in another plan", () => {
    bench().select("a");
    bench().selectAlso("a");
    expect(chosen()).toEqual([null]);
    bench().selectAll(["a", "b"]);
    bench().selectAll([]);
    expect(chosen()).toEqual([null]);
    bench().selectAll(["a", "b"]);
    bench().open(revision(4, "Other"));
    expect(chosen()).toEqual([null]);
  });
});

describe("a change that is tried", () => {
  const tried = (metres: number) =>
    bench().tryOut(
      { ...document("Plan"), places: [{ id: "a", east_m: 0, north_m: 0, ground_m: metres }] },
      `to ${metres}`,
    );

  it("shows, and is neither saved nor a step of undo until it is kept", () => {
    tried(5);
    expect(now()).toBe(5);
    expect(bench().saving.state).toBe("saved");
    expect(bench().past).toHaveLength(0);
    bench().keepTrial();
    expect([now(), bench().saving.state, bench().past.length]).toEqual([5, "waiting", 1]);
    bench().undo();
    expect(now()).toBe(1);
  });

  it("is put back whole, however many were tried one on the other", () => {
    tried(5);
    tried(7);
    expect(bench().trial?.texts).toEqual(["to 5", "to 7"]);
    bench().dropTrial();
    expect([now(), bench().trial, bench().saving.state]).toEqual([1, null, "saved"]);
  });

  it("is put back by undo, and nothing before it is undone", () => {
    ground(2);
    tried(5);
    bench().undo();
    expect(now()).toBe(2);
    expect(bench().past).toHaveLength(1);
  });

  it("is kept by whoever edits on from it, as a step of its own", () => {
    tried(5);
    ground(6);
    expect([now(), bench().trial, bench().saving.state]).toEqual([6, null, "waiting"]);
    bench().undo();
    expect(now()).toBe(5);
    bench().undo();
    expect(now()).toBe(1);
  });
});

describe("edits that the server makes", () => {
  const raised = (metres: number) => [{ kind: "set_ground", place: "a", ground_m: metres } as const];
  const made = (metres: number, ids: string[] = []) => {
    const { pending, editsMade } = bench();
    if (!pending) throw new Error("nothing waits");
    const after = structuredClone(pending.base);
    const place = after.places[0];
    if (place) place.ground_m = metres;
    editsMade(pending, after, ids, []);
  };

  it("are shown at once, are a step once they are made, and tell what they made", () => {
    const then: string[][] = [];
    bench().apply("a.ground", raised(5), { then: (ids) => then.push(ids) });
    expect(now()).toBe(5);
    expect(bench().saving.state).toBe("saved");
    made(5, ["x"]);
    expect(then).toEqual([["x"]]);
    expect(bench().saving.state).toBe("waiting");
    bench().undo();
    expect(now()).toBe(1);
  });

  it("of one figure in a row are one step, made in what stood before it", () => {
    bench().apply("a.ground", raised(2));
    made(2);
    bench().apply("a.ground", raised(20));
    expect(bench().pending?.base.places[0]?.ground_m).toBe(1);
    made(20);
    bench().undo();
    expect(now()).toBe(1);
  });

  it("that add up are made in what stands, and are one step all the same", () => {
    const nudged = [{ kind: "move_parts", parts: ["a"], by: [1, 0] } as const].map((one) => ({
      ...one,
      parts: [...one.parts],
      by: [1, 0] as [number, number],
    }));
    bench().apply("a.nudged", nudged, { relative: true });
    made(2);
    bench().apply("a.nudged", nudged, { relative: true });
    expect(bench().pending?.base.places[0]?.ground_m).toBe(2);
    bench().apply("a.nudged", nudged, { relative: true });
    expect(bench().pending?.edits).toHaveLength(2);
    made(4);
    bench().undo();
    expect(now()).toBe(1);
  });

  it("wait while a hand is on them, and only the last counts", () => {
    bench().drag("a.moved", raised(2));
    bench().drag("a.moved", raised(3));
    expect(bench().pending).toMatchObject({ dragging: true, edits: raised(3) });
    bench().endStep();
    expect(bench().pending?.dragging).toBe(false);
    made(3);
    bench().drag("a.moved", raised(4));
    bench().endStep();
    made(4);
    bench().undo();
    expect(now()).toBe(3);
  });

  it("are made while the hand rests, and what it then does belongs to the same step", () => {
    bench().drag("a.moved", raised(2));
    bench().restDrag();
    made(2);
    bench().drag("a.moved", raised(3));
    expect(bench().pending?.base.places[0]?.ground_m).toBe(1);
    bench().endStep();
    made(3);
    bench().undo();
    expect(now()).toBe(1);
  });

  it("keep what is typed beside them, and are made in that", () => {
    bench().apply("a.ground", raised(2));
    bench().edit("name", (draft) => void (draft.name = "Typed"));
    expect(bench().pending?.base.name).toBe("Typed");
    expect(now()).toBe(2);
    made(2);
    expect(bench().document?.name).toBe("Typed");
  });

  it("that are refused leave the plan as it was, and say why", () => {
    bench().apply("a.ground", raised(2));
    bench().editsRefused("Not done.");
    expect(now()).toBe(1);
    expect(bench().notes).toEqual(["Not done."]);
    bench().apply("a.ground", raised(2));
    bench().editsWait("no answer");
    expect(bench().pending?.why).toBe("no answer");
    bench().undo();
    expect(bench().pending).toBeNull();
    expect(now()).toBe(1);
  });
});

describe("a plan that is opened again", () => {
  const draft = (baseNumber: number, saved: boolean) => ({
    baseNumber,
    document: document("Mine"),
    past: [document("Before")],
    future: [],
    pending: null,
    saved,
    at: 0,
  });
  const opened = (number: number, baseNumber: number, saved: boolean) => {
    bench().open(revision(number, "Plan"), draft(baseNumber, saved));
    const { document: now, baseNumber: base, saving, past } = bench();
    return [now?.name, base, saving.state, past.length];
  };

  it.each([
    [1, 1, true, ["Mine", 1, "saved", 1]], // its steps of undo are back
    [1, 1, false, ["Mine", 1, "waiting", 1]], // what was not saved is, and will be
    [2, 1, false, ["Mine", 1, "waiting", 1]], // another tab saved since: the server asks who counts
    [2, 1, true, ["Plan", 2, "saved", 0]], // what this tab kept is old
    [1, 2, false, ["Plan", 1, "saved", 0]], // and this cannot be of this plan
  ] as const)("of revision %i with a draft on %i (saved: %s)", (number, base, saved, expected) => {
    expect(opened(number, base, saved)).toEqual(expected);
  });

  it("has the edits made that the server had not made yet", () => {
    const edits = [{ kind: "add_herd" } as const];
    const pending = { base: document("Mine"), edits, key: "herd.new", merged: false };
    bench().open(revision(1, "Plan"), { ...draft(1, false), pending });
    expect(bench().pending).toMatchObject({ edits, ended: true, dragging: false });
  });
});
