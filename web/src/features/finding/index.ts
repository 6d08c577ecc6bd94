export { Findings } from "./Findings";
