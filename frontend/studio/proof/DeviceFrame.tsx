import { type RefObject, useEffect, useRef, useState } from "react";
import { useSaving } from "../state/saving";

export const WIDTHS = { phone: 390, tablet: 820, desktop: 1280 } as const;
export type Device = keyof typeof WIDTHS;

/** The device that an address names, or the usual one. */
export function deviceOf(address: string | null, usual: Device): Device {
  return address !== null && address in WIDTHS ? (address as Device) : usual;
}

/** A page in a frame of the device's true width, scaled down to fit. It asks for itself anew after every write. */
export function DeviceFrame(props: {
  src: string;
  width: number;
  title: string;
  frame?: RefObject<HTMLIFrameElement | null>;
  onLoad?: () => void;
}) {
  const { writes } = useSaving();
  const box = useRef<HTMLDivElement>(null);
  const own = useRef<HTMLIFrameElement>(null);
  const frame = props.frame ?? own;
  const [size, setSize] = useState({ width: 400, height: 500 });
  useEffect(() => {
    const observer = new ResizeObserver(
      ([entry]) => entry && setSize({ width: entry.contentRect.width, height: entry.contentRect.height }),
    );
    if (box.current) observer.observe(box.current);
    return () => observer.disconnect();
  }, []);
  // What was written while the page was on its way may not be in it: it asks for itself anew once it is there.
  const begun = useRef({ src: "", writes: 0 });
  if (begun.current.src !== props.src) begun.current = { src: props.src, writes };
  const freshen = () => frame.current?.contentWindow?.postMessage({ proof: "freshen" }, window.location.origin);
  // biome-ignore lint/correctness/useExhaustiveDependencies: each write is what makes it ask anew
  useEffect(() => {
    if (writes > 0) freshen();
  }, [writes, frame]);
  const scale = Math.min(1, size.width / props.width);
  return (
    <div ref={box} className="relative mx-3 mb-3 min-h-0 flex-1 overflow-hidden">
      <iframe
        ref={frame}
        key={props.src}
        title={props.title}
        src={props.src}
        onLoad={() => {
          if (writes > begun.current.writes) freshen();
          props.onLoad?.();
        }}
        className="absolute top-0 rounded bg-white shadow"
        style={{
          width: props.width,
          height: size.height / scale,
          transform: `scale(${scale})`,
          transformOrigin: "top left",
          left: Math.max(0, (size.width - props.width * scale) / 2),
        }}
      />
    </div>
  );
}
