export { Section } from "./Section";
export { sectionAt } from "./model";
