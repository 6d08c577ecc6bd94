import { OneOf } from "./OneOf";
import type { Together } from "./route";

interface Props {
  value: Together;
  onChange: (value: Together) => void;
}

const OPTIONS = [
  { value: "together", text: "All running" },
  { value: "alone", text: "One at a time" },
] as const;

/** Whether the pictures show all outlets drawing together, or each by itself. */
export const DrawingSwitch = ({ value, onChange }: Props) => (
  <OneOf<Together> name="Which outlets run" value={value} options={OPTIONS} onChange={onChange} />
);
