export { Day } from "./Day";
