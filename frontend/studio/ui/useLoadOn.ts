import { type RefObject, useEffect, useRef } from "react";

export type Pages = { hasNextPage: boolean; fetchNextPage: () => unknown };

/** The end of a list that comes in pages: when it comes into sight, the next page is asked for. */
export function useLoadOn({ hasNextPage, fetchNextPage }: Pages): RefObject<HTMLDivElement | null> {
  const end = useRef<HTMLDivElement>(null);
  useEffect(() => {
    const observer = new IntersectionObserver(
      ([entry]) => entry?.isIntersecting && hasNextPage && void fetchNextPage(),
    );
    if (end.current) observer.observe(end.current);
    return () => observer.disconnect();
  }, [hasNextPage, fetchNextPage]);
  return end;
}
