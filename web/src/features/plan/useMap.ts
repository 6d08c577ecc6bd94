/** The map under the plan: local metres, panned and zoomed, things drawn with snapping. Through OpenLayers. */
import Feature from "ol/Feature";
import OlMap from "ol/Map";
import View from "ol/View";
import { shiftKeyOnly } from "ol/events/condition";
import LineString from "ol/geom/LineString";
import Point from "ol/geom/Point";
import type Polygon from "ol/geom/Polygon";
import DragBox from "ol/interaction/DragBox";
import Draw from "ol/interaction/Draw";
import Snap from "ol/interaction/Snap";
import { defaults } from "ol/interaction/defaults";
import Projection from "ol/proj/Projection";
import VectorSource from "ol/source/Vector";
import { Circle, Fill, Stroke, Style } from "ol/style";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";

import type { Design } from "../../api/types";
import type { Frame, Scale } from "../../shared/fit";
import { wayOf, type Spot } from "../../shared/way";
import { EDGE } from "./model";
import { DRAWS, type Tool } from "./tools";

const SITE = new Projection({ code: "site", units: "m" });
const PADDING = [EDGE.top, EDGE.right, EDGE.bottom, EDGE.left];
const SNAP_PX = 14;
const ZOOM_STEP = 1.5;

interface Seen {
  centre: [number, number];
  resolution: number;
}

interface Handlers {
  onDrawn: (way: Spot[]) => void;
  onBox: (low: Spot, high: Spot) => void;
}

/** A map in an element, where it looks, and drawing on it with a tool. */
export function useMap(document: Design, size: Frame, tool: Tool | null, handlers: Handlers) {
  const target = useRef<HTMLDivElement>(null);
  const told = useRef(handlers);
  const touched = useRef(false);
  const [seen, setSeen] = useState<Seen | null>(null);
  const source = useMemo(() => new VectorSource(), []);
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
    const spare = Math.max(1, 100 - Math.max(...east) + Math.min(...east)) / 2;
    const around = document.places.length > 1 ? 0.5 : spare;
    map
      .getView()
      .fit(
        [
          Math.min(...east) - around,
          Math.min(...north) - around,
          Math.max(...east) + around,
          Math.max(...north) + around,
        ],
        { padding: PADDING, size: map.getSize() ?? [size.width, size.height] },
      );
  }, [document, map, size.width, size.height]);
  useEffect(() => {
    if (!size.width) return;
    map.updateSize();
    if (!touched.current) fit();
    // what is edited later must not move the map under the hand
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [map, size.width, size.height]);

  useEffect(() => {
    if (!tool) return;
    source.clear();
    source.addFeatures(document.places.map((place) => new Feature(new Point([place.east_m, place.north_m]))));
    source.addFeatures(
      (document.lines ?? []).map(
        (line) => new Feature(new LineString(wayOf(document, line).map(([x, y]) => [x, y]))),
      ),
    );
    const fences = tool === "paddock" ? (document.paddocks ?? []) : [];
    source.addFeatures(
      fences.flatMap((paddock) => (paddock.corners ?? []).map((corner) => new Feature(new Point(corner)))),
    );
  }, [source, tool, document]);

  useEffect(() => {
    if (!tool) return;
    const deep = getComputedStyle(window.document.documentElement)
      .getPropertyValue("--lm-palette-chart-deep")
      .trim();
    const style = new Style({
      stroke: new Stroke({ color: deep, width: 4, lineDash: [8, 6] }),
      image: new Circle({
        radius: 6,
        fill: new Fill({ color: "#fff" }),
        stroke: new Stroke({ color: deep, width: 3 }),
      }),
    });
    const { type, least } = DRAWS[tool];
    const draw = new Draw({ type, style, stopClick: true });
    const snap = new Snap({ source, pixelTolerance: SNAP_PX });
    draw.on("drawend", ({ feature }) => {
      const geometry = feature.getGeometry();
      const drawn =
        geometry instanceof Point
          ? [geometry.getCoordinates()]
          : geometry instanceof LineString
            ? geometry.getCoordinates()
            : ((geometry as Polygon).getCoordinates()[0] ?? []).slice(0, -1);
      const way = drawn.map(([x = 0, y = 0]): Spot => [x, y]);
      if (way.length >= least) told.current.onDrawn(way);
    });
    let begun = false;
    draw.on("drawstart", () => void (begun = true));
    draw.on(["drawend", "drawabort"], () => void (begun = false));
    const keys = (event: KeyboardEvent) => {
      if (event.key === "Escape") draw.abortDrawing();
      else if (!begun) return;
      else if (event.key === "Backspace") draw.removeLastPoint();
      else if (event.key === "Enter") {
        event.stopImmediatePropagation(); // not of the crosshair that the arrows move
        draw.finishDrawing();
      }
    };
    map.addInteraction(draw);
    map.addInteraction(snap);
    window.addEventListener("keydown", keys);
    return () => {
      window.removeEventListener("keydown", keys);
      map.removeInteraction(snap);
      map.removeInteraction(draw);
    };
  }, [map, source, tool]);

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
  return { target, scale, fit, zoom };
}
