import { useEffect, useState } from "react";

const AT_REST_MS = 300;

/**
 * An answer that takes longer than an edit may: asked for once the document has come to rest.
 * Null while it is not of this document; `ask` must keep its identity. Once the document moves on, or nothing is
 * wanted any more, the server is told to stop.
 */
export function useSettled<Document, Answer>(
  document: Document | null,
  wanted: Document | null,
  ask: (document: Document, signal: AbortSignal) => Promise<Answer>,
): Answer | null {
  const [told, setTold] = useState<{ document: Document; answer: Answer } | null>(null);
  useEffect(() => {
    if (!wanted) return;
    const asking = new AbortController();
    const settled = setTimeout(() => {
      ask(wanted, asking.signal)
        .then((answer) => {
          if (!asking.signal.aborted) setTold({ document: wanted, answer });
        })
        .catch(() => undefined); // the edit's own answer stands without; the next edit asks again
    }, AT_REST_MS);
    return () => {
      clearTimeout(settled);
      asking.abort();
    };
  }, [wanted, ask]);
  return told && told.document === document ? told.answer : null;
}
