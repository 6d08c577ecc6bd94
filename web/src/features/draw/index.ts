export { EndDialog } from "./EndDialog";
export { layLine, movePlace, newSite, placeAt, takeLine, type End, type Start } from "./model";
