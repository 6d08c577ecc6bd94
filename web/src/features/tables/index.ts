export { Tables } from "./Tables";
