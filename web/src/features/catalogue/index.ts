export { CatalogueView } from "./CatalogueView";
