export { RenameDialog } from "./RenameDialog";
export { Sites } from "./Sites";
export { useCopyPlan } from "./usePlans";
