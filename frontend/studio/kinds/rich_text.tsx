import { lazy, Suspense } from "react";
import { asText, type EditorProps, type KindUi } from "./base";

// The editor is large, and few fields are rich text: it comes when the first of them is on the screen.
const RichEditor = lazy(() => import("./RichEditor"));

function RichText(props: EditorProps) {
  return (
    <Suspense fallback={<div className="input min-h-[96px]" aria-busy="true" />}>
      <RichEditor {...props} />
    </Suspense>
  );
}

export const richText: KindUi = {
  code: "rich_text",
  Editor: RichText,
  tall: () => true,
  typed: (value) => asText(value),
};
