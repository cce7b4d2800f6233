import { useCallback } from "react";
import { useSearchParams } from "react-router";

type Values = Record<string, string | null>;

/** How to put several parts of the address's query at once; null takes one away. */
export function usePutAddress(): (values: Values) => void {
  const [, setParams] = useSearchParams();
  return useCallback(
    (values: Values) => {
      setParams(
        (old) => {
          const next = new URLSearchParams(old);
          for (const [name, value] of Object.entries(values)) {
            if (value === null || value === "") next.delete(name);
            else next.set(name, value);
          }
          return next;
        },
        { replace: true },
      );
    },
    [setParams],
  );
}

/** A part of the address's query: its value, and how to put another. */
export function useAddress(name: string): [string | null, (value: string | null) => void] {
  const [params] = useSearchParams();
  const put = usePutAddress();
  return [params.get(name), useCallback((value: string | null) => put({ [name]: value }), [name, put])];
}
