import { useEffect, useState } from "react";

/** A value once it has not changed for so long [ms]. */
export function useDebounced<Value>(value: Value, quietMs: number): Value {
  const [settled, setSettled] = useState({ value });
  useEffect(() => {
    const timer = setTimeout(() => setSettled({ value }), quietMs);
    return () => clearTimeout(timer);
  }, [value, quietMs]);
  return settled.value;
}
