/** The ways in which plants are watered, and moving from one to another. */
import type { Crop, Design } from "../../api/types";
import { freeNumber } from "../../shared/names";
import type { Family } from "../../shared/units";

type Figure = "litres_lpd" | "plants" | "litres_each_lpd" | "area_m2" | "crop_factor" | "minutes_per_day";

export interface CropFigure {
  key: Figure;
  label: string;
  family: Family;
  digits?: number;
  /** what it starts at when this way is chosen */
  first: number;
}

export const CROP_WAYS: { way: string; text: string; figures: CropFigure[] }[] = [
  {
    way: "minutes",
    text: "by the minute",
    figures: [{ key: "minutes_per_day", label: "Minutes a day", family: "count", first: 30 }],
  },
  {
    way: "plants",
    text: "by the plant",
    figures: [
      { key: "plants", label: "Plants", family: "count", first: 50 },
      { key: "litres_each_lpd", label: "Each needs", family: "L/d", digits: 1, first: 1 },
    ],
  },
  {
    way: "area",
    text: "by area and weather",
    figures: [
      { key: "area_m2", label: "Area, m²", family: "count", first: 50 },
      { key: "crop_factor", label: "Crop factor", family: "count", digits: 2, first: 1 },
    ],
  },
  {
    way: "litres",
    text: "litres a day",
    figures: [{ key: "litres_lpd", label: "Needs", family: "L/d", first: 100 }],
  },
];

/** Which way a crop is watered. */
export function wayOf(crop: Crop): string {
  return CROP_WAYS.find(({ figures }) => figures.some(({ key }) => crop[key] != null))?.way ?? "litres";
}

/** The same crop watered in another way, with figures to start from. */
export function cropIn(crop: Crop, way: string): Crop {
  const { id, name, outlet, applied_share } = crop;
  const figures = CROP_WAYS.find((one) => one.way === way)?.figures ?? [];
  return {
    id,
    outlet,
    ...(name == null ? {} : { name }),
    ...(applied_share == null ? {} : { applied_share }),
    ...Object.fromEntries(figures.map(({ key, first }) => [key, first])),
  };
}

/** Plants to start with, at the first outlet, with an id that is not taken. */
export function newCrop(document: Design): Crop {
  const number = freeNumber(document.crops, "plants");
  const outlets = document.outlets ?? [];
  const drip = outlets.find((outlet) => !outlet.fills) ?? outlets[0];
  return cropIn({ id: `plants-${number}`, name: `Plants ${number}`, outlet: drip?.id ?? "" }, "plants");
}
