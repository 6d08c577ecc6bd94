/** The ways in which plants are watered. */
import type { Crop, DesignEdit } from "../../api/types";
import type { Family } from "../../shared/units";

type Figure = "litres_lpd" | "plants" | "litres_each_lpd" | "area_m2" | "crop_factor" | "minutes_per_day";

export interface CropFigure {
  key: Figure;
  label: string;
  family: Family;
  digits?: number;
}

export type CropWay = Extract<DesignEdit, { kind: "set_crop_way" }>["way"];

export const CROP_WAYS: { way: CropWay; text: string; figures: CropFigure[] }[] = [
  {
    way: "minutes",
    text: "by the minute",
    figures: [{ key: "minutes_per_day", label: "Minutes a day", family: "count" }],
  },
  {
    way: "plants",
    text: "by the plant",
    figures: [
      { key: "plants", label: "Plants", family: "count" },
      { key: "litres_each_lpd", label: "Each needs", family: "L/d", digits: 1 },
    ],
  },
  {
    way: "area",
    text: "by area and weather",
    figures: [
      { key: "area_m2", label: "Area", family: "m²" },
      { key: "crop_factor", label: "Crop factor", family: "count", digits: 2 },
    ],
  },
  {
    way: "litres",
    text: "a volume a day",
    figures: [{ key: "litres_lpd", label: "Needs", family: "L/d" }],
  },
];

/** Which way a crop is watered. */
export function wayOf(crop: Crop): CropWay {
  return CROP_WAYS.find(({ figures }) => figures.some(({ key }) => crop[key] != null))?.way ?? "litres";
}
