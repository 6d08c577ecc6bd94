export { Plan } from "./Plan";
export { lineAt, placeAt, standsOn } from "./snapping";
export type { Tool } from "./tools";
export { inlineAreas } from "./InlineMarks";
