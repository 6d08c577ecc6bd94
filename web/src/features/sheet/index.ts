export { Sheet } from "./Sheet";
export type { Edit } from "./edit";
export { requirementOf } from "./OutletSheet";
