import { lazy, Suspense } from "react";
import type { EditorProps } from "./base";

// The editor is large, and few fields are rich text: it comes when the first of them is on the screen.
const RichEditor = lazy(() => import("./RichEditor"));

export function RichText(props: EditorProps) {
  return (
    <Suspense fallback={<div className="input min-h-[96px]" aria-busy="true" />}>
      <RichEditor {...props} />
    </Suspense>
  );
}
