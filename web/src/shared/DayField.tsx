import { NativeField, type NativeProps } from "./NativeField";

/** A day of the calendar, as 2026-05-31. */
export function DayField(props: NativeProps) {
  return <NativeField type="date" {...props} />;
}
