import { useEffect, useState } from "react";

/** Whether something has held for so long [ms], and still holds. */
export function useLasting(holds: boolean, ms: number): boolean {
  const [lasted, setLasted] = useState(false);
  useEffect(() => {
    if (!holds) return;
    const timer = setTimeout(() => setLasted(true), ms);
    return () => {
      clearTimeout(timer);
      setLasted(false);
    };
  }, [holds, ms]);
  return holds && lasted;
}
