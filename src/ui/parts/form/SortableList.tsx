"use client";

import {
  closestCenter,
  DndContext,
  KeyboardSensor,
  PointerSensor,
  useSensor,
  useSensors,
  type DragEndEvent,
} from "@dnd-kit/core";
import {
  sortableKeyboardCoordinates,
  SortableContext,
  useSortable,
  verticalListSortingStrategy,
} from "@dnd-kit/sortable";
import { CSS } from "@dnd-kit/utilities";
import { GripVertical } from "lucide-react";
import { useId, type ReactNode } from "react";
import { PARTS_WORDS } from "@/ui/words/partsWords";

interface Props {
  readonly label: string;
  readonly ids: readonly string[];
  readonly nameOf: (at: number) => string;
  readonly onMove: (at: number, to: number) => void;
  readonly row: (at: number, handle: ReactNode) => ReactNode;
}

/**
 * A list whose order is changed by dragging a handle, or with Space and the arrows on it; each move is spoken by name.
 */
export function SortableList({ label, ids, nameOf, onMove, row }: Props) {
  const id = useId();
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: 6 } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates, scrollBehavior: "auto" }),
  );
  const called = (id: string | number | undefined) => (id === undefined ? "" : nameOf(ids.indexOf(String(id))));
  const place = (id: string | number | undefined) =>
    id === undefined ? "" : PARTS_WORDS.placeOf(ids.indexOf(String(id)) + 1, ids.length);
  const onDragEnd = ({ active, over }: DragEndEvent) => {
    if (over && over.id !== active.id) onMove(ids.indexOf(String(active.id)), ids.indexOf(String(over.id)));
  };
  return (
    <DndContext
      id={id}
      sensors={sensors}
      collisionDetection={closestCenter}
      onDragEnd={onDragEnd}
      accessibility={{
        announcements: {
          onDragStart: ({ active }) => PARTS_WORDS.takenUp(called(active.id), place(active.id)),
          onDragOver: ({ active, over }) => PARTS_WORDS.over(called(active.id), place(over?.id)),
          onDragEnd: ({ active, over }) => PARTS_WORDS.putDown(called(active.id), place(over?.id)),
          onDragCancel: ({ active }) => PARTS_WORDS.staysWhereItWas(called(active.id)),
        },
      }}
    >
      <SortableContext items={[...ids]} strategy={verticalListSortingStrategy}>
        <ol aria-label={label} className="mt-2">
          {ids.map((id, at) => (
            <SortableRow key={id} id={id} name={nameOf(at)} canMove={ids.length > 1}>
              {(handle) => row(at, handle)}
            </SortableRow>
          ))}
        </ol>
      </SortableContext>
    </DndContext>
  );
}

function SortableRow({
  id,
  name,
  canMove,
  children,
}: {
  id: string;
  name: string;
  canMove: boolean;
  children: (handle: ReactNode) => ReactNode;
}) {
  const { attributes, listeners, setNodeRef, setActivatorNodeRef, transform, transition, isDragging } = useSortable({
    id,
  });
  const handle = canMove && (
    <button
      type="button"
      ref={setActivatorNodeRef}
      className="btn btn-ghost press cursor-grab touch-none px-1"
      title={PARTS_WORDS.moveDragOrSpaceAndTheArrows(name)}
      {...attributes}
      {...listeners}
    >
      <GripVertical size={18} aria-hidden />
      <span className="sr-only">{PARTS_WORDS.move(name)}</span>
    </button>
  );
  return (
    <li
      ref={setNodeRef}
      style={{ transform: CSS.Transform.toString(transform), transition }}
      className={isDragging ? "relative z-10 opacity-80" : ""}
    >
      {children(handle)}
    </li>
  );
}
