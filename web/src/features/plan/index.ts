export { Plan } from "./Plan";
export type { Tool } from "./tools";
