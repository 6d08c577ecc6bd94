export { Findings } from "./Findings";
export { PlanMarks, SectionMarks } from "./Marks";
export { markAreas } from "./spots";
