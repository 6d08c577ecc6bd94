export { Build } from "./Build";
