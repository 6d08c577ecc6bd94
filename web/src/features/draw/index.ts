export { EndDialog } from "./EndDialog";
export {
  layLine,
  movePlace,
  newSite,
  nudge,
  placeAt,
  setCorners,
  takeLine,
  type End,
  type Start,
} from "./model";
