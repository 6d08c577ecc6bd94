/** Drawing on the map with a tool, and snapping to what is there. Through OpenLayers; fetched once the plan stands. */
import Feature from "ol/Feature";
import type OlMap from "ol/Map";
import LineString from "ol/geom/LineString";
import Point from "ol/geom/Point";
import type Geometry from "ol/geom/Geometry";
import Polygon from "ol/geom/Polygon";
import Draw from "ol/interaction/Draw";
import Snap from "ol/interaction/Snap";
import VectorSource from "ol/source/Vector";
import { Circle, Fill, Stroke, Style } from "ol/style";

import type { Design } from "../../api/types";
import { wayOf, type Spot } from "../../shared/way";
import { DRAWS, type Tool } from "./tools";

const SNAP_PX = 14;

/** What a tool draws to: places, lines and, for a paddock, the corners of the others. */
function snapped(source: VectorSource, document: Design, tool: Tool): void {
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
}

function strokes(): Style {
  const deep = getComputedStyle(window.document.documentElement)
    .getPropertyValue("--lm-palette-chart-deep")
    .trim();
  return new Style({
    stroke: new Stroke({ color: deep, width: 4, lineDash: [8, 6] }),
    image: new Circle({
      radius: 6,
      fill: new Fill({ color: "#fff" }),
      stroke: new Stroke({ color: deep, width: 3 }),
    }),
  });
}

export interface Drawing {
  /** What is there has changed while the tool is in the hand. */
  snapTo: (document: Design) => void;
  leave: () => void;
}

interface Handlers {
  onDrawn: (way: Spot[]) => void;
  /** what is drawn so far, with the point under the hand; null where it is over */
  onSketch: (way: Spot[] | null) => void;
}

/** The corners so far: of a paddock those of its border. */
function sketchOf(geometry: Geometry): Spot[] {
  const drawn =
    geometry instanceof LineString
      ? geometry.getCoordinates()
      : geometry instanceof Polygon
        ? (geometry.getCoordinates()[0] ?? [])
        : [];
  return drawn.map(([x = 0, y = 0]): Spot => [x, y]);
}

/** Put a tool in the hand: what it draws is told, until it is left. */
export function drawWith(map: OlMap, tool: Tool, document: Design, handlers: Handlers): Drawing {
  const source = new VectorSource();
  snapped(source, document, tool);
  const { type, least } = DRAWS[tool];
  const draw = new Draw({ type, style: strokes(), stopClick: true });
  const snap = new Snap({ source, pixelTolerance: SNAP_PX });
  draw.on("drawend", ({ feature }) => {
    const geometry = feature.getGeometry();
    const drawn =
      geometry instanceof Point
        ? [geometry.getCoordinates()]
        : geometry instanceof LineString
          ? geometry.getCoordinates()
          : geometry instanceof Polygon
            ? (geometry.getCoordinates()[0] ?? []).slice(0, -1)
            : [];
    const way = drawn.map(([x = 0, y = 0]): Spot => [x, y]);
    handlers.onSketch(null);
    if (way.length >= least) handlers.onDrawn(way);
  });
  let begun = false;
  draw.on("drawstart", ({ feature }) => {
    begun = true;
    const geometry = feature.getGeometry();
    geometry?.on("change", () => handlers.onSketch(sketchOf(geometry)));
  });
  draw.on(["drawend", "drawabort"], () => void (begun = false));
  draw.on("drawabort", () => handlers.onSketch(null));
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
  return {
    snapTo: (changed) => snapped(source, changed, tool),
    leave: () => {
      window.removeEventListener("keydown", keys);
      map.removeInteraction(snap);
      map.removeInteraction(draw);
    },
  };
}
