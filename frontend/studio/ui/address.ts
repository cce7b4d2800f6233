import { useCallback, useEffect, useRef } from "react";
import { useSearchParams } from "react-router";

type Values = Record<string, string | null>;

/** What was put and is not the address yet: what is put right after it goes on from there. */
let underway: { from: string; to: URLSearchParams } | null = null;

/** How to put several parts of the address's query at once; null takes one away. */
export function usePutAddress(): (values: Values) => void {
  const [params, setParams] = useSearchParams();
  // biome-ignore lint/correctness/useExhaustiveDependencies: another address is there: nothing is under way
  useEffect(() => {
    underway = null;
  }, [params]);
  // A view that is gone puts nothing, and one that stands puts into the address as it is by then.
  const latest = useRef<typeof setParams | null>(null);
  useEffect(() => {
    latest.current = setParams;
    return () => {
      latest.current = null;
    };
  }, [setParams]);
  return useCallback((values: Values) => {
    latest.current?.(
      (old) => {
        const next = new URLSearchParams(underway?.from === old.toString() ? underway.to : old);
        for (const [name, value] of Object.entries(values)) {
          if (value === null || value === "") next.delete(name);
          else next.set(name, value);
        }
        underway = { from: old.toString(), to: next };
        return next;
      },
      { replace: true },
    );
  }, []);
}

/** A part of the address's query: its value, and how to put another. */
export function useAddress(name: string): [string | null, (value: string | null) => void] {
  const [params] = useSearchParams();
  const put = usePutAddress();
  return [params.get(name), useCallback((value: string | null) => put({ [name]: value }), [name, put])];
}
