import { opened } from "../../shared/opened";

export { fenceNameAreas } from "./fenceNames";
export { GroundUnder } from "./Ground";
export { Fences, HoseCircles } from "./Paddocks";
export { useBackground, type Background } from "./useBackground";

// opened by a press: they are no part of what the view needs first
export const LayersPanel = opened(async () => (await import("./LayersPanel")).LayersPanel);
export const PinDialog = opened(async () => (await import("./PinDialog")).PinDialog);
