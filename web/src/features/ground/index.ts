export { Ground } from "./Ground";
