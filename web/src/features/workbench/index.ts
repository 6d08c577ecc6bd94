export { Workbench } from "./Workbench";
export { useBench } from "./store";
