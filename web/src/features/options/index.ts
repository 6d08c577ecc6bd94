export { Options } from "./Options";
