export { DeleteDialog } from "./DeleteDialog";
export { EndDialog } from "./EndDialog";
export { PaddockDialog } from "./PaddockDialog";
export { StartDialog } from "./StartDialog";
export { ThingDialog } from "./ThingDialog";
