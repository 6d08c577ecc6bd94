export { Soundings } from "./Soundings";
