export { Plan } from "./Plan";
