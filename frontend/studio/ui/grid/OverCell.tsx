import { type ReactNode, useLayoutEffect, useRef, useState } from "react";
import { Floating } from "../basics";
import type { Editing } from "./column";

/** What is edited in more than a line, floating over its cell; Esc, or a press elsewhere, goes back to the cell. */
export function OverCell(props: { editing: Editing; width?: number; children: ReactNode }) {
  const mark = useRef<HTMLSpanElement>(null);
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  useLayoutEffect(() => setAnchor(mark.current?.closest<HTMLElement>("[data-line]") ?? null), []);
  return (
    <>
      <span ref={mark} />
      {anchor && (
        <Floating
          anchor={anchor}
          label={props.editing.label}
          width={props.width ?? 380}
          onClose={() => props.editing.leave("stay")}
        >
          {props.children}
        </Floating>
      )}
    </>
  );
}
