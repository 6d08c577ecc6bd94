import { useState } from "react";

/** An answer, or the last one there was while the next is on its way. */
export function useKept<Answer>(answer: Answer | null): Answer | null {
  const [kept, setKept] = useState(answer);
  if (answer !== null && answer !== kept) setKept(answer);
  return answer ?? kept;
}
