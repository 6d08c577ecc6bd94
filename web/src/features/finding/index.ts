export { Findings } from "./Findings";
export { PlanMarks, SectionMarks } from "./Marks";
export { spotsOnPlan } from "./spots";
