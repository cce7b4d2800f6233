import {
  DndContext,
  type DragEndEvent,
  PointerSensor,
  pointerWithin,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { GripVertical } from "lucide-react";
import type { ReactNode } from "react";
import type { SideRow } from "../../../things/SideList";
import { Only } from "../../../ui/rights";

/** Nothing: the place at the top of the tree. */
export const TOP = "";

type Props = {
  rows: readonly SideRow[];
  onInto: (key: string, parent: string | null) => void;
  children: (row: SideRow) => ReactNode;
};

/** A tree whose branches are moved by dragging one onto another, or by Alt with the arrows on a grip: right under the one above, left
 * up a level. */
export function TypeTree({ rows, onInto, children }: Props) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  function end({ active, over }: DragEndEvent) {
    if (!over || over.id === active.id) return;
    const key = String(active.id);
    const parent = over.id === TOP_ID ? null : String(over.id);
    if (parent !== parentOf(rows, key) && !(parent && isWithin(rows, parent, key))) onInto(key, parent);
  }
  return (
    <DndContext sensors={sensors} collisionDetection={pointerWithin} onDragEnd={end}>
      {rows.map((row) => (
        <Branch key={row.key} row={row} onStep={(by) => step(rows, row.key, by, onInto)}>
          {children(row)}
        </Branch>
      ))}
      <TopPlace />
    </DndContext>
  );
}

const TOP_ID = "§top";

/** The parent of a row, told by how deep the rows above it stand; null for those at the top. */
export function parentOf(rows: readonly SideRow[], key: string): string | null {
  const at = rows.findIndex((row) => row.key === key);
  const depth = rows[at]?.depth ?? 0;
  for (let above = at - 1; above >= 0; above -= 1) {
    const row = rows[above];
    if (row && (row.depth ?? 0) < depth) return row.key;
  }
  return null;
}

/** Whether a row is another one, or stands below it. */
export function isWithin(rows: readonly SideRow[], key: string, branch: string): boolean {
  for (let at: string | null = key; at !== null; at = parentOf(rows, at)) if (at === branch) return true;
  return false;
}

/** Right: under the nearest one above on the same level. Left: beside its parent. */
export function step(
  rows: readonly SideRow[],
  key: string,
  by: "in" | "out",
  onInto: (key: string, parent: string | null) => void,
) {
  const parent = parentOf(rows, key);
  if (by === "out") {
    if (parent !== null) onInto(key, parentOf(rows, parent));
    return;
  }
  const siblings = rows.filter((row) => parentOf(rows, row.key) === parent).map((row) => row.key);
  const above = siblings[siblings.indexOf(key) - 1];
  if (above) onInto(key, above);
}

function Branch(props: { row: SideRow; onStep: (by: "in" | "out") => void; children: ReactNode }) {
  const { row } = props;
  const drag = useDraggable({ id: row.key });
  const drop = useDroppable({ id: row.key });
  const { role: _role, "aria-roledescription": _as, "aria-describedby": _by, ...grip } = drag.attributes;
  return (
    <div
      ref={drop.setNodeRef}
      className={`flex items-center ${drop.isOver && !drag.isDragging ? "bg-weld-tint" : ""} ${drag.isDragging ? "opacity-50" : ""}`}
    >
      <Only>
        <button
          ref={drag.setNodeRef}
          type="button"
          className="grip grid h-6 w-6 flex-none place-items-center"
          aria-label={`Move ${row.name}: drag it onto another, or Alt with the left and right arrow`}
          title="Drag onto another, or Alt with ← and →"
          {...grip}
          {...drag.listeners}
          onKeyDown={(event) => {
            const by = ({ ArrowRight: "in", ArrowLeft: "out" } as const)[event.key as "ArrowRight" | "ArrowLeft"];
            if (!by || !event.altKey) return;
            event.preventDefault();
            props.onStep(by);
          }}
        >
          <GripVertical size={14} aria-hidden="true" />
        </button>
      </Only>
      <div className="min-w-0 flex-1">{props.children}</div>
    </div>
  );
}

/** Where a branch is dropped to stand at the top. */
function TopPlace() {
  const { setNodeRef, isOver, active } = useDroppable({ id: TOP_ID });
  return (
    <p ref={setNodeRef} className={`hint px-3 py-2 ${isOver ? "bg-weld-tint" : ""}`}>
      {active ? "Drop it here to put it at the top" : "\u00a0"}
    </p>
  );
}
