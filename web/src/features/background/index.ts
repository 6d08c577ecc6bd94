import { lazy } from "react";

export { GroundUnder } from "./Ground";
export { Fences, HoseCircles } from "./Paddocks";
export { useBackground, type Background } from "./useBackground";

// opened by a press: they are no part of what the view needs first
export const LayersPanel = lazy(async () => ({ default: (await import("./LayersPanel")).LayersPanel }));
export const PinDialog = lazy(async () => ({ default: (await import("./PinDialog")).PinDialog }));
