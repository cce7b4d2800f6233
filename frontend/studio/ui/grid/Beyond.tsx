import { type RefObject, useEffect, useState } from "react";
import type { Placed } from "./useWidths";

type Props = { box: RefObject<HTMLDivElement | null>; placed: readonly Placed[]; names: readonly string[] };

/** Says which columns stand beyond the right edge, and scrolls on to them; keys come there by the arrows and End. */
export function Beyond({ box, placed, names }: Props) {
  const [count, setCount] = useState(0);
  const widths = placed.map(({ start, size }) => start + size).join();
  useEffect(() => {
    const seen = box.current;
    if (!seen) return;
    const ends = widths.split(",").map(Number);
    const look = () => {
      const edge = seen.scrollLeft + seen.clientWidth;
      setCount(edge > 0 ? ends.filter((end) => end > edge + 8).length : 0);
    };
    look();
    const observer = new ResizeObserver(look);
    observer.observe(seen);
    seen.addEventListener("scroll", look, { passive: true });
    return () => {
      observer.disconnect();
      seen.removeEventListener("scroll", look);
    };
  }, [box, widths]);
  if (count === 0) return null;
  return (
    <button
      type="button"
      tabIndex={-1}
      aria-hidden="true"
      className="grid-beyond"
      title={`Further on: ${names.slice(-count).join(", ")}`}
      onMouseDown={(event) => event.preventDefault()}
      onClick={() => box.current?.scrollBy({ left: box.current.clientWidth * 0.6 })}
    >
      {count} more →
    </button>
  );
}
