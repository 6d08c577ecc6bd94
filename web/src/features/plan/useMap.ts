/** The map under the plan: local metres, panned and zoomed, things drawn with snapping. Through OpenLayers. */
import OlMap from "ol/Map";
import View from "ol/View";
import { shiftKeyOnly } from "ol/events/condition";
import DragBox from "ol/interaction/DragBox";
import { defaults } from "ol/interaction/defaults";
import Projection from "ol/proj/Projection";
import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";

import type { Design } from "../../api/types";
import type { Frame, Scale } from "../../shared/fit";
import type { Spot } from "../../shared/way";
import type { Drawing } from "./drawing";
import { edgeOf } from "./model";
import type { Tool } from "./tools";

const SITE = new Projection({ code: "site", units: "m" });
/** How much ground an empty plan shows, at least, each way [m]. */
const EMPTY_PLAN_M = 500;
const ZOOM_STEP = 1.5;

interface Seen {
  centre: [number, number];
  resolution: number;
}

interface Handlers {
  onDrawn: (way: Spot[]) => void;
  onSketch: (way: Spot[] | null) => void;
  onBox: (low: Spot, high: Spot) => void;
}

/** A map in an element, where it looks, and drawing on it with a tool; `fetchTools` where those are not to be had. */
export function useMap(document: Design, size: Frame, tool: Tool | null, handlers: Handlers) {
  const target = useRef<HTMLDivElement>(null);
  const told = useRef(handlers);
  const touched = useRef(false);
  const [seen, setSeen] = useState<Seen | null>(null);
  const map = useMemo(
    () =>
      new OlMap({
        controls: [],
        interactions: defaults({
          doubleClickZoom: false,
          altShiftDragRotate: false,
          pinchRotate: false,
          shiftDragZoom: false,
          keyboard: false,
        }),
        view: new View({
          projection: SITE,
          center: [0, 0],
          resolution: 1,
          minResolution: 0.01,
          maxResolution: 200,
        }),
      }),
    [],
  );
  useEffect(() => {
    told.current = handlers;
  }, [handlers]);

  useEffect(() => {
    map.setTarget(target.current ?? undefined);
    const look = () => {
      const view = map.getView();
      const [x = 0, y = 0] = view.getCenter() ?? [];
      setSeen({ centre: [x, y], resolution: view.getResolution() ?? 1 });
    };
    const move = () => void (touched.current = true);
    const box = new DragBox({ condition: shiftKeyOnly });
    box.on("boxend", () => {
      const [west = 0, south = 0, east = 0, north = 0] = box.getGeometry().getExtent();
      told.current.onBox([west, south], [east, north]);
    });
    map.addInteraction(box);
    map.getView().on("propertychange", look);
    map.on("pointerdrag", move);
    map.getTargetElement()?.addEventListener("wheel", move, { passive: true });
    look();
    return () => {
      map.removeInteraction(box);
      map.getView().un("propertychange", look);
      map.setTarget(undefined);
    };
  }, [map]);

  const fit = useCallback(() => {
    const east = document.places.map((place) => place.east_m);
    const north = document.places.map((place) => place.north_m);
    const { top, right, bottom, left } = edgeOf(size);
    const around = document.places.length > 1 ? 0.5 : EMPTY_PLAN_M / 2;
    map
      .getView()
      .fit(
        [
          Math.min(...east) - around,
          Math.min(...north) - around,
          Math.max(...east) + around,
          Math.max(...north) + around,
        ],
        { padding: [top, right, bottom, left], size: map.getSize() ?? [size.width, size.height] },
      );
  }, [document, map, size]);
  useEffect(() => {
    if (!size.width) return;
    map.updateSize();
    if (!touched.current) fit();
    // what is edited later must not move the map under the hand
    // oxlint-disable-next-line react/exhaustive-deps
  }, [map, size.width, size.height]);

  // what draws on the map is fetched as soon as the plan stands: before a hand has found a tool
  const kit = useQuery({
    queryKey: ["module", "drawing"],
    queryFn: () => import("./drawing"),
    networkMode: "always",
    staleTime: Infinity,
    gcTime: Infinity,
    retry: false,
    structuralSharing: false,
  });
  const drawWith = kit.data?.drawWith;
  const shown = useRef(document);
  const drawing = useRef<Drawing | null>(null);
  useEffect(() => {
    shown.current = document;
    drawing.current?.snapTo(document);
  }, [document]);
  useEffect(() => {
    if (!tool || !drawWith) return;
    const taken = drawWith(map, tool, shown.current, {
      onDrawn: (way) => told.current.onDrawn(way),
      onSketch: (way) => told.current.onSketch(way),
    });
    drawing.current = taken;
    return () => {
      drawing.current = null;
      taken.leave();
    };
  }, [map, tool, drawWith]);

  const scale = useMemo((): Scale | null => {
    if (!seen || !size.width) return null;
    const { centre, resolution } = seen;
    return {
      perMetre: 1 / resolution,
      x: (east) => (east - centre[0]) / resolution + size.width / 2,
      y: (north) => (centre[1] - north) / resolution + size.height / 2,
    };
  }, [seen, size.width, size.height]);
  const zoom = (steps: number) => {
    touched.current = true;
    const view = map.getView();
    view.setResolution((view.getResolution() ?? 1) * ZOOM_STEP ** -steps);
  };
  return { target, scale, fit, zoom, fetchTools: kit.isError ? () => void kit.refetch() : null };
}
