export { Water } from "./Water";
