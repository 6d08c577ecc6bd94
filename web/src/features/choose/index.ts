export { PipeChoices } from "./PipeChoices";
export { ValveChoices } from "./ValveChoices";
