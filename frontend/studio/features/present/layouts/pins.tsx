import { type KeyboardEvent, type PointerEvent, useEffect, useRef, useState } from "react";
import { Button } from "../../../ui/basics";
import { TextBox } from "../../../ui/TextBox";
import type { MemberProps } from "./parts";
import type { Picture } from "./picture";

export type Pin = { x: number; y: number; words: string; link: string };

/** Where a pin stands is told in thousandths of the picture's width and height. */
const ACROSS = 1000;
const STEP = 10;
const MOVES: Record<string, [number, number]> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};
const within = (at: number) => Math.max(0, Math.min(ACROSS, Math.round(at)));

/** A pin moved by a key: a hundredth of the picture, ten times that with Shift. */
export function moveByKey(pin: Pin, key: string, far: boolean): Pin | null {
  const by = MOVES[key];
  if (!by) return null;
  const step = far ? 10 * STEP : STEP;
  return { ...pin, x: within(pin.x + by[0] * step), y: within(pin.y + by[1] * step) };
}

/** Where on a box a pointer is, in thousandths. */
export function placeOn(box: DOMRect, x: number, y: number): { x: number; y: number } {
  return { x: within(((x - box.left) / box.width) * ACROSS), y: within(((y - box.top) / box.height) * ACROSS) };
}

/** Pins on a block's picture: placed by a press, moved by drag or arrows, each with words and where it leads. */
export function PinsControl({ block, value, onPut }: MemberProps) {
  const picture = block.picture as Partial<Picture> | undefined;
  const kept = (Array.isArray(value) ? value : []) as Pin[];
  const [pins, setPins] = useState(kept);
  const mark = JSON.stringify(kept);
  // An answer to an earlier write takes nothing from what was put since.
  const open = useRef(0);
  const latest = useRef(mark);
  latest.current = mark;
  useEffect(() => {
    if (open.current === 0) setPins(JSON.parse(mark) as Pin[]);
  }, [mark]);
  // A pin under way lies over what is kept, so an answer that comes meanwhile takes nothing from under the pointer.
  const [held, setHeld] = useState<{ index: number; x: number; y: number } | null>(null);
  const board = useRef<HTMLDivElement>(null);
  const list = useRef<HTMLOListElement>(null);
  const drag = useRef<number | null>(null);
  const put = (next: Pin[]) => {
    setPins(next);
    open.current += 1;
    void Promise.resolve(onPut(next.length > 0 ? next : null)).finally(() => {
      open.current -= 1;
      if (open.current === 0) setPins(JSON.parse(latest.current) as Pin[]);
    });
  };
  const change = (index: number, changes: Partial<Pin>) =>
    pins.map((pin, at) => (at === index ? { ...pin, ...changes } : pin));
  const at = (event: PointerEvent) =>
    placeOn((board.current as HTMLDivElement).getBoundingClientRect(), event.clientX, event.clientY);
  function add(position: { x: number; y: number }) {
    put([...pins, { ...position, words: "", link: "" }]);
    setTimeout(() => list.current?.querySelector<HTMLElement>("li:last-child textarea, li:last-child input")?.focus());
  }
  function key(event: KeyboardEvent, index: number) {
    const pin = pins[index];
    const moved = pin && moveByKey(pin, event.key, event.shiftKey);
    if (moved) put(pins.map((other, position) => (position === index ? moved : other)));
    else if (event.key === "Delete") put(pins.filter((_, position) => position !== index));
    else return;
    event.preventDefault();
    event.stopPropagation();
  }
  if (!picture?.file) return <p className="hint pt-1">Choose the picture first, then press on it where a pin goes.</p>;
  return (
    <div>
      <div
        ref={board}
        className="relative cursor-crosshair touch-none overflow-hidden rounded border border-line"
        onPointerDown={(event) => {
          if (event.button === 0 && event.target === event.currentTarget.firstElementChild) add(at(event));
        }}
      >
        <img
          src={`/files/${picture.file}-480.webp`}
          alt={picture.alt ?? ""}
          className="block w-full select-none"
          style={{ aspectRatio: `${picture.width} / ${picture.height}` }}
          draggable={false}
        />
        {pins.map((kept, index) => {
          const pin = held?.index === index ? { ...kept, ...held } : kept;
          return (
            <button
              // biome-ignore lint/suspicious/noArrayIndexKey: pins are known by their place in the list
              key={index}
              type="button"
              className="-translate-1/2 absolute grid h-6 w-6 cursor-grab place-items-center rounded-full border-2 border-white bg-woad font-semibold text-[11px] text-white focus-visible:outline-2 focus-visible:outline-weld"
              style={{ left: `${pin.x / 10}%`, top: `${pin.y / 10}%` }}
              aria-label={`Pin ${index + 1}${pin.words ? `, ${pin.words}` : ""}: arrows move it`}
              title="Drag it, or move it with arrows"
              onKeyDown={(event) => key(event, index)}
              onPointerDown={(event) => {
                event.stopPropagation();
                event.currentTarget.setPointerCapture(event.pointerId);
                drag.current = index;
              }}
              onPointerMove={(event) => {
                if (drag.current === index) setHeld({ index, ...at(event) });
              }}
              onPointerUp={() => {
                if (held) put(change(held.index, { x: held.x, y: held.y }));
                setHeld(null);
                drag.current = null;
              }}
            >
              {index + 1}
            </button>
          );
        })}
      </div>
      <ol ref={list} className="mt-2">
        {pins.map((pin, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: pins are known by their place in the list
          <li key={index} className="mb-2 grid grid-cols-[22px_minmax(0,1fr)_auto] items-start gap-x-1.5 gap-y-1">
            <b className="pt-1 text-woad">{index + 1}</b>
            <TextBox
              rows={2}
              aria-label={`Words of pin ${index + 1}`}
              placeholder="What is there"
              value={pin.words}
              maxLength={300}
              onCommit={(words) => put(change(index, { words: words.trim() }))}
            />
            <Button
              look="quiet"
              aria-label={`Take pin ${index + 1} off`}
              onClick={() => put(pins.filter((_, position) => position !== index))}
            >
              ×
            </Button>
            <span />
            <TextBox
              aria-label={`Link of pin ${index + 1}`}
              placeholder="Leads nowhere; or /shop/p/… or https://…"
              value={pin.link}
              onCommit={(link) => put(change(index, { link: link.trim() }))}
            />
          </li>
        ))}
      </ol>
      <Button onClick={() => add({ x: ACROSS / 2, y: ACROSS / 2 })}>Add a pin</Button>
      <span className="hint ml-2">or press on the picture</span>
    </div>
  );
}
