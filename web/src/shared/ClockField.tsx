import { NativeField, type NativeProps } from "./NativeField";

/** A time of day, as 06:30. */
export function ClockField(props: NativeProps) {
  return <NativeField type="time" {...props} />;
}
