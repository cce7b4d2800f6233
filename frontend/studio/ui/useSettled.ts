import { useEffect, useState } from "react";

const SETTLES_AFTER = 400;

/** A value once it has stayed the same for a while: what is asked about it is asked then. */
export function useSettled<T>(value: T, after = SETTLES_AFTER): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    if (Object.is(settled, value)) return;
    const timer = setTimeout(() => setSettled(value), after);
    return () => clearTimeout(timer);
  }, [value, settled, after]);
  return settled;
}
