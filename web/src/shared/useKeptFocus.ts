import { useEffect } from "react";

const FOCUSABLE =
  "button:not(:disabled), a[href], input:not(:disabled), select:not(:disabled), textarea, summary, [tabindex='0']";

/** When what has the focus goes away, the focus moves to what stands nearest to where it was, never to the page's body. */
export function useKeptFocus(): void {
  useEffect(() => {
    let around: Element[] = [];
    const follow = ({ target }: FocusEvent) => {
      around = [];
      if (target instanceof Element)
        for (let at: Element | null = target; at; at = at.parentElement) around.push(at);
    };
    const check = () => {
      const [own] = around;
      if (!own || own.isConnected || window.document.activeElement !== window.document.body) return;
      for (const outer of around) {
        if (!outer.isConnected || outer === window.document.body) continue;
        const next = outer.querySelector<HTMLElement>(FOCUSABLE);
        if (!next) continue;
        next.focus();
        return;
      }
    };
    const observer = new MutationObserver(check);
    window.document.addEventListener("focusin", follow);
    observer.observe(window.document.body, { childList: true, subtree: true });
    return () => {
      window.document.removeEventListener("focusin", follow);
      observer.disconnect();
    };
  }, []);
}
