import { Refused } from "../api/client";
import type { Fault } from "../api/types";

/** Return what the server said of the figure at a JSON pointer of the document. */
export function faultAt(faults: Fault[], path: string): string | undefined {
  const found = faults.find((fault) => fault.path.endsWith(path));
  return found && `allowed: ${found.limit}`;
}

/** Why nothing was taken: each fault with where it stands, or what the service says. */
export function whatIsWrong(error: unknown): string {
  if (error instanceof Refused && error.problem.faults?.length)
    return `Nothing was taken. ${error.problem.faults
      .slice(0, 3)
      .map(({ message }) => message.replace(/^\/: /, "")) // of the whole file no place need be said
      .join("; ")}`;
  return error instanceof Error ? error.message : String(error);
}
