/** What the hand draws in the lines' view: which tool it holds, and what becomes of what was drawn. */
import { useCallback, useMemo, useState } from "react";

import { useShallow } from "zustand/react/shallow";

import type { Design, DesignEdit, Thing } from "../../api/types";
import { placeOfPart } from "../../shared/ground";
import { named, troughNames } from "../../shared/names";
import { endsOf, wayLength, type Spot } from "../../shared/way";
import { lineAt, placeAt, standsOn, type Tool } from "../plan";
import { sketched } from "./sketch";
import { useBench } from "./store";

/** What was drawn and still has to be told more of. */
export type Asked =
  | { kind: "start"; way: Spot[]; groundM: number | null }
  | { kind: "end"; way: Spot[]; from: string; lowerM: number | null; begin: DesignEdit | null }
  | { kind: "thing"; spot: Spot; lineId: string | null; groundM: number | null }
  | { kind: "paddock"; corners: Spot[] };

const SNAP_M = 2;

/** Heights of the ground at spots; null where no height model tells them. */
export type GroundAt = (spots: Spot[]) => Promise<(number | null)[]>;

export function useDrawing(document: Design, groundAt: GroundAt, tellMetres: (m: number) => string) {
  const { selected, select, apply, endStep } = useBench(
    useShallow(({ selected, select, apply, endStep }) => ({ selected, select, apply, endStep })),
  );
  const [tool, setTool] = useState<Tool | null>(null);
  const [asked, setAsked] = useState<Asked | null>(null);
  const [told, setTold] = useState("");

  const take = useCallback(
    (next: Tool | null) => {
      setTool(next);
      setTold("");
      sketched(null);
    },
    [setTool],
  );
  const start = useCallback((): Spot => {
    const source = document.vessels?.find((vessel) => vessel.role !== "trough");
    const place =
      placeOfPart(document, selected ?? "") ?? placeOfPart(document, source?.id ?? "") ?? document.places[0];
    return place ? [place.east_m, place.north_m] : [0, 0];
  }, [document, selected]);
  const snap = useCallback(
    (at: Spot): Spot => {
      const near = document.places
        .map((place) => ({
          spot: [place.east_m, place.north_m] as Spot,
          offM: Math.hypot(place.east_m - at[0], place.north_m - at[1]),
        }))
        .filter(({ offM }) => offM <= SNAP_M)
        .sort((a, b) => a.offM - b.offM)[0];
      return near?.spot ?? lineAt(document, at, SNAP_M / 2)?.spot ?? at;
    },
    [document],
  );
  /** What was just added is chosen, and the focus goes to its details. */
  const showMade = ([made]: string[]) => {
    select(made ?? null);
    requestAnimationFrame(() => window.document.querySelector<HTMLElement>("[data-side=details]")?.focus());
  };
  const lay = (way: Spot[], end: Thing, name: string, lowerM: number, begin: DesignEdit | null = null) => {
    const line: DesignEdit = {
      kind: "lay_line",
      way: way.map(([x, y]) => [x, y]),
      end,
      name,
      lower_m: lowerM,
    };
    apply("line.new", begin ? [begin, line] : [line], { then: showMade });
    endStep();
  };
  /** A pipe that was drawn, once its start is known: add it, or ask what is at its end. */
  const goOn = async (way: Spot[], from: string, begin: DesignEdit | null) => {
    const [, last] = endsOf(way);
    if (standsOn(document, last)) {
      setAsked(null);
      lay(way, "junction", "", 0, begin);
    } else setAsked({ kind: "end", way, from, lowerM: await lowerBy(way), begin });
  };
  const startAt = (way: Spot[], thing: Thing, name: string, groundM: number) => {
    const [[x, y]] = endsOf(way);
    return goOn(way, name, { kind: "add_thing", spot: [x, y], thing, name, ground_m: groundM, on_line_m: 0 });
  };
  const stand = (spot: Spot, lineId: string | null, thing: Thing, name: string, groundM: number) => {
    const [x, y] = spot;
    apply(
      "thing.new",
      [
        {
          kind: "add_thing",
          spot: [x, y],
          thing,
          name,
          ground_m: groundM,
          on_line_m: lineId === null ? 0 : SNAP_M,
        },
      ],
      { then: showMade },
    );
    endStep();
  };
  const fence = (corners: Spot[], name: string, outlet: string) => {
    apply(
      "paddock.drawn",
      [{ kind: "add_paddock", corners: corners.map(([x, y]) => [x, y]), name, outlet: outlet || null }],
      { then: showMade },
    );
    endStep();
  };
  /** How much lower the end of a way is than its beginning [m]. */
  const lowerBy = async (way: Spot[]) => {
    const [a, b] = await groundAt(endsOf(way));
    return a == null || b == null ? null : Number((a - b).toFixed(2));
  };
  const measured = async (way: Spot[]) => {
    const lowerM = await lowerBy(way);
    const fall =
      lowerM === null
        ? ""
        : lowerM >= 0
          ? `, falling ${tellMetres(lowerM)}`
          : `, climbing ${tellMetres(-lowerM)}`;
    setTold(`${tellMetres(wayLength(way))} on the plan${fall}.`);
  };
  const onDrawn = async (way: Spot[]) => {
    const [first] = endsOf(way);
    if (tool === "measure") {
      await measured(way);
      return;
    }
    take(null);
    if (tool === "paddock") setAsked({ kind: "paddock", corners: way });
    else if (tool === "thing") {
      const onLine = placeAt(document, first) ? null : lineAt(document, first, SNAP_M / 2);
      const [groundM = null] = await groundAt([first]);
      setAsked({ kind: "thing", spot: onLine?.spot ?? first, lineId: onLine?.line ?? null, groundM });
    } else if (!standsOn(document, first)) {
      const [groundM = null] = await groundAt([first]);
      setAsked({ kind: "start", way, groundM });
    } else {
      const fromId = placeAt(document, first)?.id ?? lineAt(document, first, SNAP_M)?.line ?? "";
      const line = document.lines?.find((one) => one.id === fromId);
      await goOn(way, named(line ?? placeOfPart(document, fromId) ?? { id: fromId }), null);
    }
  };
  const { outlets, vessels } = document;
  const outletNames = useMemo(() => {
    const nameOf = troughNames({ outlets, vessels });
    return (outlets ?? []).map(({ id }) => ({ value: id, text: nameOf(id) }));
  }, [outlets, vessels]);
  return {
    tool,
    take,
    told,
    tell: setTold,
    asked,
    leave: () => setAsked(null),
    start,
    snap,
    onDrawn: (way: Spot[]) => void onDrawn(way),
    lay,
    startAt,
    stand,
    fence,
    outletNames,
  };
}

export type Drawing = ReturnType<typeof useDrawing>;
