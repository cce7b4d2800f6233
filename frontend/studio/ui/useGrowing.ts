import { type RefObject, useEffect, useRef, useState } from "react";

/** How many of a long list's rows to show: a first part, and more each time its end comes into sight. */
export function useGrowing(count: number, step = 100): [number, RefObject<HTMLDivElement | null>] {
  const [shown, setShown] = useState(step);
  const end = useRef<HTMLDivElement>(null);
  const more = shown < count;
  // biome-ignore lint/correctness/useExhaustiveDependencies: the end moves with every step, and is watched anew
  useEffect(() => {
    if (!more || !end.current) return;
    const observer = new IntersectionObserver(([entry]) => entry?.isIntersecting && setShown((old) => old + step), {
      rootMargin: "600px",
    });
    observer.observe(end.current);
    return () => observer.disconnect();
  }, [more, shown, step]);
  return [Math.min(shown, count), end];
}
