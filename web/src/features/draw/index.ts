export { EndDialog } from "./EndDialog";
export { PaddockDialog } from "./PaddockDialog";
export { ThingDialog } from "./ThingDialog";
