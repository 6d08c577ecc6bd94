export { GroundUnder } from "./Ground";
export { LayersPanel } from "./LayersPanel";
export { Fences, HoseCircles } from "./Paddocks";
export { PinDialog } from "./PinDialog";
export { useBackground, type Background } from "./useBackground";
