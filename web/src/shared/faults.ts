import type { Fault } from "../api/types";

/** Return what the server said of the figure at a JSON pointer of the document. */
export function faultAt(faults: Fault[], path: string): string | undefined {
  const found = faults.find((fault) => fault.path.endsWith(path));
  return found && `allowed: ${found.limit}`;
}
