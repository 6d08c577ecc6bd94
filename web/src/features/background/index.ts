import { lazyPart } from "../../shared/lazyPart";

export { fenceNameAreas } from "./fenceNames";
export { GroundUnder } from "./Ground";
export { Fences, HoseCircles } from "./Paddocks";
export { useBackground, type Background } from "./useBackground";

// opened by a press: they are no part of what the view needs first
export const LayersPanel = lazyPart(async () => (await import("./LayersPanel")).LayersPanel);
export const PinDialog = lazyPart(async () => (await import("./PinDialog")).PinDialog);
