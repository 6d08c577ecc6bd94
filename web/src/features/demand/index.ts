export { Demand } from "./Demand";
