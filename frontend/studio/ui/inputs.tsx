import type { ComponentProps } from "react";
import { useMay } from "./rights";

const CHOSEN = new Set(["file"]);
const PRESSED = new Set(["checkbox", "radio", "range", "color"]);

/** A control to type in or to press. Who may not edit sees what stands in it, and no box. */
export function Input({ className = "", ...rest }: ComponentProps<"input">) {
  if (useMay("edit")) return <input className={className} {...rest} />;
  if (CHOSEN.has(rest.type ?? "")) return null;
  const shown = { ...rest, placeholder: undefined };
  if (PRESSED.has(rest.type ?? "")) return <input className={className} {...shown} disabled />;
  return <input className={`${className} plain`} {...shown} readOnly />;
}

/** The same with several lines. */
export function TextArea({ className = "", ...rest }: ComponentProps<"textarea">) {
  if (useMay("edit")) return <textarea className={className} {...rest} />;
  return <textarea className={`${className} plain`} {...rest} placeholder={undefined} readOnly />;
}
