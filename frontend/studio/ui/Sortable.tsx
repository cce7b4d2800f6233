import { closestCenter, DndContext, type DragEndEvent, PointerSensor, useSensor, useSensors } from "@dnd-kit/core";
import { arrayMove, SortableContext, useSortable, verticalListSortingStrategy } from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { GripVertical } from "lucide-react";
import type { ReactNode } from "react";
import { useMay } from "./rights";

/** A list put in order by dragging, or by Alt with the arrows on its grip. */
export function SortableList(props: {
  ids: string[];
  onMove: (from: number, to: number) => void;
  children: ReactNode;
}) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  function end(event: DragEndEvent) {
    const from = props.ids.indexOf(String(event.active.id));
    const to = props.ids.indexOf(String(event.over?.id ?? ""));
    if (from >= 0 && to >= 0 && from !== to) props.onMove(from, to);
  }
  return (
    <DndContext sensors={sensors} collisionDetection={closestCenter} onDragEnd={end}>
      <SortableContext items={props.ids} strategy={verticalListSortingStrategy}>
        {props.children}
      </SortableContext>
    </DndContext>
  );
}

export function SortableRow(props: {
  id: string;
  name: string;
  className?: string;
  disabled?: boolean;
  onStep: (by: -1 | 1) => void;
  children: ReactNode;
}) {
  const disabled = !useMay("edit") || props.disabled;
  const { setNodeRef, attributes, listeners, transform, transition, isDragging } = useSortable({
    id: props.id,
    disabled,
  });
  const { role: _role, "aria-roledescription": _as, "aria-describedby": _by, ...grip } = attributes;
  return (
    <div
      ref={setNodeRef}
      className={`flex items-center gap-1 ${props.className ?? ""} ${isDragging ? "relative z-10 bg-weld-tint shadow-lg" : ""}`}
      style={{ transform: CSS.Translate.toString(transform), transition }}
    >
      {!disabled && (
        <button
          type="button"
          className="grip grid h-6 w-6 flex-none place-items-center"
          aria-label={`Move ${props.name}: drag, or Alt with an arrow`}
          title="Drag, or Alt with an arrow"
          {...grip}
          {...listeners}
          onKeyDown={(event) => {
            const by = { ArrowUp: -1, ArrowDown: 1 }[event.key];
            if (!by || !event.altKey) return;
            event.preventDefault();
            props.onStep(by as -1 | 1);
          }}
        >
          <GripVertical size={14} aria-hidden="true" />
        </button>
      )}
      {props.children}
    </div>
  );
}

/** The list with one item moved; the same list when it can't be. */
export function moved<T>(items: readonly T[], from: number, to: number): T[] {
  if (to < 0 || to >= items.length) return [...items];
  return arrayMove([...items], from, to);
}
