export { Parts } from "./Parts";
