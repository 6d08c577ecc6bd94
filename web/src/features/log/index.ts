export { Log } from "./Log";
