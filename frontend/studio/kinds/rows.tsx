import { lazy, Suspense } from "react";
import type { EditorProps, KindUi } from "./base";

// The grid is large, and few fields are rows: it comes when the first of them is on the screen.
const RowsGrid = lazy(() => import("./RowsGrid"));

function RowsEditor(props: EditorProps) {
  return (
    <Suspense fallback={<div className="min-h-[96px]" aria-busy="true" />}>
      <RowsGrid {...props} />
    </Suspense>
  );
}

export const rows: KindUi = { code: "rows", Editor: RowsEditor, tall: () => true, wide: true };
