"use client";

import {
  DndContext,
  DragOverlay,
  pointerWithin,
  PointerSensor,
  rectIntersection,
  useSensor,
  useSensors,
  type CollisionDetection,
  type DragEndEvent,
} from "@dnd-kit/core";
import { useMemo, useRef, useState } from "react";
import { railBoard } from "@/core/board/railBoard";
import type { InputRef } from "@/core/site/fitClamp";
import { ClampPanel } from "@/ui/place/ClampPanel";
import { ClipFace } from "@/ui/place/Clip";
import { MeterTray } from "@/ui/place/MeterTray";
import { RailBoardView } from "@/ui/place/RailBoardView";
import { StateBar } from "@/ui/place/StateBar";
import { dropTargetSchema, pickedSchema } from "@/ui/place/dragData";
import { usePlace, type Picked } from "@/ui/place/usePlace";
import { useZoom } from "@/ui/place/useZoom";

/** Pixels that a pointer must travel before it drags, so that a tap stays a tap. */
const DRAG_AFTER_PX = 8;

/**
 * Place: clamps on rails, what each input should read and reads, in any state of the site.
 *
 * @param start The input that is picked when the page opens: a link can lead to it.
 */
export function PlaceStage({ start }: { start?: InputRef | undefined }) {
  const place = usePlace(start);
  const [dragged, setDragged] = useState<Picked | undefined>();
  const layout = useMemo(() => railBoard(place.site), [place.site]);
  const frame = useRef<HTMLDivElement>(null);
  const { zoom, zoomBy, fit } = useZoom(frame, layout.width);
  const sensors = useSensors(useSensor(PointerSensor, { activationConstraint: { distance: DRAG_AFTER_PX } }));

  const drop = ({ active, over }: DragEndEvent) => {
    setDragged(undefined);
    const what = pickedSchema.safeParse(active.data.current);
    const target = dropTargetSchema.safeParse(over?.data.current);
    if (!what.success || !target.success) return;
    if (target.data.kind === "rail") place.putOn(what.data, target.data);
    else place.plugInto(what.data, target.data);
  };

  return (
    <DndContext
      id="place"
      sensors={sensors}
      collisionDetection={underPointer}
      autoScroll
      onDragStart={({ active }) => {
        const what = pickedSchema.safeParse(active.data.current);
        if (!what.success) return;
        setDragged(what.data);
        place.pick(what.data);
      }}
      onDragEnd={drop}
      onDragCancel={() => setDragged(undefined)}
    >
      <div className="flex h-full flex-col max-md:h-auto">
        <h2 className="sr-only">Place</h2>
        <StateBar place={place} zoomBy={zoomBy} fit={fit} />
        <RailBoardView place={place} layout={layout} frame={frame} zoom={zoom} />
        <div className="flex border-t border-base-300 bg-base-200 max-md:flex-col md:h-[15rem]">
          <MeterTray place={place} />
          <ClampPanel place={place} />
        </div>
      </div>
      <DragOverlay dropAnimation={null}>
        {dragged && <ClipFace site={place.site} picked={dragged} lifted />}
      </DragOverlay>
    </DndContext>
  );
}

/** What lies under the pointer; beside everything, what the clip itself touches. */
const underPointer: CollisionDetection = (args) => {
  const under = pointerWithin(args);
  return under.length > 0 ? under : rectIntersection(args);
};
