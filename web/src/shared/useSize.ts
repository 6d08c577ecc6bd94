import { useLayoutEffect, useState } from "react";

/** The size in pixels of the element that the returned ref is on, also of one that comes later. */
export function useSize<E extends Element>() {
  const [element, setElement] = useState<E | null>(null);
  const [size, setSize] = useState({ width: 0, height: 0 });
  useLayoutEffect(() => {
    if (!element) return;
    const observer = new ResizeObserver(([entry]) => {
      if (entry) setSize({ width: entry.contentRect.width, height: entry.contentRect.height });
    });
    observer.observe(element);
    return () => observer.disconnect();
  }, [element]);
  return [setElement, size] as const;
}
