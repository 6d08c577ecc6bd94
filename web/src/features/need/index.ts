export { Need } from "./Need";
