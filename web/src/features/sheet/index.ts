export { Sheet } from "./Sheet";
export type { Edit } from "./edit";
export { Given } from "./SourceSheet";
export { requirementOf } from "./OutletSheet";
