import {
  closestCenter,
  DndContext,
  PointerSensor,
  useDraggable,
  useDroppable,
  useSensor,
  useSensors,
} from "@dnd-kit/core";
import { GripVertical } from "lucide-react";
import type { ReactNode } from "react";
import { useMay } from "../rights";

/** Around a grid whose rows are pulled to other places by their grips. */
export function RowsMoved(props: { onMove: (from: number, to: number) => void; children: ReactNode }) {
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: 4 } }));
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={({ active, over }) =>
        over && active.id !== over.id && props.onMove(Number(active.id), Number(over.id))
      }
    >
      {props.children}
    </DndContext>
  );
}

/** The number of a row, with the grip it is pulled by; a fixed one stays where it is. */
export function RowGrip({ index, fixed: stays }: { index: number; fixed: boolean }) {
  const fixed = !useMay("edit") || stays;
  const { listeners, setNodeRef: setGrip, isDragging } = useDraggable({ id: index, disabled: fixed });
  const { isOver, setNodeRef: setPlace } = useDroppable({ id: index, disabled: fixed });
  return (
    <span ref={setPlace} className={`row-grip ${isOver && !isDragging ? "over" : ""} ${isDragging ? "pulled" : ""}`}>
      {!fixed && (
        <button
          ref={setGrip}
          type="button"
          tabIndex={-1}
          className="grip grid h-6 w-5 place-items-center"
          aria-label={`Move row ${index + 1}: drag, or Alt with an arrow`}
          title="Drag, or Alt with an arrow"
          {...listeners}
        >
          <GripVertical size={14} aria-hidden="true" />
        </button>
      )}
      <span className="ml-auto text-ink-3">{index + 1}</span>
    </span>
  );
}
