export { Sites } from "./Sites";
