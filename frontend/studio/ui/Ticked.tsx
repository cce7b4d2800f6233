import type { ReactNode } from "react";
import { useMay } from "./rights";

/** What can be done with several rows at once, as long as some are ticked: `label` names them, `words` says how many. */
export function Ticked(props: {
  label: string;
  count: number;
  words: string;
  onClear: () => void;
  children: ReactNode;
}) {
  if (props.count === 0) return null;
  return (
    <section
      className="flex flex-none flex-wrap items-center gap-2 bg-woad-tint px-[14px] py-1.5"
      aria-label={`${props.label} ticked`}
    >
      <strong>{props.words} ticked</strong>
      {props.children}
      <button type="button" className="link ml-auto" onClick={props.onClear}>
        untick
      </button>
    </section>
  );
}

/** Ticks a row; with Shift all from the last one on. Who may not edit has nothing to tick for. */
export function Tick(props: {
  name: string;
  ticked: boolean;
  disabled?: boolean;
  id?: string;
  className?: string;
  /** Whether Tab stops at it; where rows are ticked by Space it need not. */
  stop?: boolean;
  onTick: (range: boolean) => void;
}) {
  if (!useMay("edit")) return null;
  return (
    <input
      id={props.id}
      type="checkbox"
      className={`tick ${props.className ?? ""}`}
      aria-label={props.id ? undefined : `Tick ${props.name}`}
      tabIndex={props.stop === false ? -1 : undefined}
      disabled={props.disabled}
      checked={props.ticked}
      onClick={(event) => event.stopPropagation()}
      onChange={(event) => props.onTick((event.nativeEvent as MouseEvent).shiftKey)}
    />
  );
}
