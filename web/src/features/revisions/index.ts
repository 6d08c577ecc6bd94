export { differences } from "./difference";
export { DifferenceTable } from "./DifferenceTable";
export { Revisions } from "./Revisions";
