export { Supply } from "./Supply";
