import { ink } from "../app/theme";

interface Props {
  /** for those who hear the page */
  name: string;
  value: string;
  options: { value: string; text: string }[];
  onChange: (value: string) => void;
}

/** A choice in a row of a table, whose head says what it is: the browser's own select without a label of its own. */
export function BareChoice({ name, value, options, onChange }: Props) {
  return (
    <select
      aria-label={name}
      value={value}
      style={{
        font: "inherit",
        background: ink("paper"),
        color: ink("ink"),
        border: `1px solid ${ink("rule")}`,
        maxWidth: 240,
      }}
      onChange={(event) => onChange(event.target.value)}
    >
      {options.map((option) => (
        <option key={option.value} value={option.value}>
          {option.text}
        </option>
      ))}
    </select>
  );
}
