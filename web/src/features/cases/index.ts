export { CasesDialog } from "./CasesDialog";
