import { useCallback } from "react";
import { useSearchParams } from "react-router";

/** A part of the address's query: its value, and how to put another (null takes it away). */
export function useAddress(name: string): [string | null, (value: string | null, keep?: boolean) => void] {
  const [params, setParams] = useSearchParams();
  const put = useCallback(
    (value: string | null, keep = false) => {
      setParams(
        (old) => {
          const next = new URLSearchParams(old);
          if (value === null || value === "") next.delete(name);
          else next.set(name, value);
          return next;
        },
        { replace: !keep },
      );
    },
    [name, setParams],
  );
  return [params.get(name), put];
}
