import { useEffect, useRef, useState } from "react";

const WIDTH = 820;

/** A page of the shop under its heading, scaled to fit. */
export function Framed({ title, src, strong }: { title: string; src: string; strong?: boolean }) {
  const box = useRef<HTMLDivElement>(null);
  const [size, setSize] = useState({ width: 380, height: 500 });
  useEffect(() => {
    const observer = new ResizeObserver(
      ([entry]) => entry && setSize({ width: entry.contentRect.width, height: entry.contentRect.height }),
    );
    if (box.current) observer.observe(box.current);
    return () => observer.disconnect();
  }, []);
  const scale = Math.min(1, size.width / WIDTH);
  return (
    <div className="flex min-h-0 flex-col">
      <h3 className={`mb-1 ${strong ? "text-woad" : "font-medium text-ink-2"}`}>{title}</h3>
      <div ref={box} className="relative min-h-0 flex-1 overflow-hidden rounded bg-white shadow">
        <iframe
          title={title}
          src={src}
          className="absolute"
          style={{
            width: WIDTH,
            height: size.height / scale,
            transform: `scale(${scale})`,
            transformOrigin: "top left",
          }}
        />
      </div>
    </div>
  );
}
