import { type KeyboardEvent, type PointerEvent, useRef, useState } from "react";
import { Input } from "../ui/inputs";
import { type Swatch, SwatchMark } from "../ui/SwatchMark";

const WHOLE = 1000;
const NEAREST = 400;
const STEP = 20;
const MOVES: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
export type Focus = [number, number, number];
const within = (at: number) => Math.max(0, Math.min(WHOLE, Math.round(at)));

/** The part of a picture that a swatch shows; its middle and the whole where nothing is said. */
export function focusOf(focus: readonly number[] | undefined): Focus {
  const [across = WHOLE / 2, down = WHOLE / 2, near = 100] = focus ?? [];
  return [across, down, near];
}

/** A focus moved by a key, five times as far with Shift. */
export function movedFocus(focus: Focus, key: string, far: boolean): Focus | null {
  const by = MOVES[key];
  if (!by) return null;
  const step = far ? 5 * STEP : STEP;
  return [within(focus[0] + by[0] * step), within(focus[1] + by[1] * step), focus[2]];
}

/** Which part of its picture a swatch shows: a point pressed, dragged or moved by arrows, and how near it is. */
export function PictureFocus({ swatch, onPut }: { swatch: Swatch; onPut: (focus: number[]) => void }) {
  const kept = focusOf(swatch.focus);
  const [held, setHeld] = useState<Focus | null>(null);
  const board = useRef<HTMLButtonElement>(null);
  const focus = held ?? kept;
  const at = (event: PointerEvent): Focus => {
    const box = (board.current as HTMLButtonElement).getBoundingClientRect();
    const [across, down] = [(event.clientX - box.left) / box.width, (event.clientY - box.top) / box.height];
    return [within(across * WHOLE), within(down * WHOLE), kept[2]];
  };
  function key(event: KeyboardEvent) {
    const moved = movedFocus(kept, event.key, event.shiftKey);
    if (!moved) return;
    event.preventDefault();
    event.stopPropagation();
    onPut(moved);
  }
  return (
    <div className="mt-1.5 flex items-start gap-3">
      <button
        ref={board}
        type="button"
        className="relative block w-[150px] flex-none cursor-crosshair touch-none overflow-hidden rounded border border-line"
        aria-label={`Part that shows: ${focus[0] / 10} % across, ${focus[1] / 10} % down. Arrows move it`}
        onKeyDown={key}
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setHeld(at(event));
        }}
        onPointerMove={(event) => held && setHeld(at(event))}
        onPointerUp={() => {
          if (held) onPut(held);
          setHeld(null);
        }}
      >
        <img
          src={`/files/${swatch.picture}-480.webp`}
          alt=""
          className="pointer-events-none block w-full select-none"
          draggable={false}
        />
        <span
          className="-translate-1/2 pointer-events-none absolute h-5 w-5 rounded-full border-2 border-white bg-woad/50 outline outline-1 outline-ink"
          style={{ left: `${focus[0] / 10}%`, top: `${focus[1] / 10}%` }}
        />
      </button>
      <span className="grid gap-1.5">
        <SwatchMark swatch={{ ...swatch, focus }} size={56} />
        <label className="grid gap-0.5 text-ink-2">
          How near
          <Input
            type="range"
            className="w-[88px]"
            min={100}
            max={NEAREST}
            step={10}
            value={kept[2]}
            onChange={(event) => onPut([kept[0], kept[1], Number(event.target.value)])}
          />
        </label>
      </span>
    </div>
  );
}
