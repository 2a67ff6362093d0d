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
import { useEffect, useMemo, useRef, useState, type RefObject } from "react";
import { railBoard, type RailBoardLayout } from "@/core/board/railBoard";
import type { InputRef } from "@/core/site/fitClamp";
import { BoardSwitch } from "@/ui/board/BoardSwitch";
import { usePhone } from "@/ui/parts/browser/usePhone";
import { CircuitTree } from "@/ui/place/CircuitTree";
import { ClampCaution, ClampPanel } from "@/ui/place/ClampPanel";
import { ClipFace } from "@/ui/place/Clip";
import { MeterTray } from "@/ui/place/MeterTray";
import { RailBoardView } from "@/ui/place/RailBoardView";
import { StateBar } from "@/ui/place/StateBar";
import { dropTargetSchema, pickedSchema } from "@/ui/place/dragData";
import { clipLabel } from "@/ui/place/clipKeys";
import { usePlace, type Picked, type PlaceDesk } from "@/ui/place/usePlace";
import { useZoom } from "@/ui/place/useZoom";
import { PLACE_WORDS } from "@/ui/words/placeWords";

/** Pixels that a pointer must travel before it drags, so that a tap stays a tap. */
const DRAG_AFTER_PX = 8;

const SETTLED_WORDS: Readonly<Record<NonNullable<PlaceDesk["settled"]>["how"], string>> = {
  down: PLACE_WORDS.putDownLower,
  back: PLACE_WORDS.putBack,
};

/**
 * Place: CTs on rails, what each input should read and reads, in any state of the site.
 *
 * @param start The input that is picked when the page opens: a link can lead to it.
 */
export function PlaceStage({ start }: { start?: InputRef | undefined }) {
  const place = usePlace(start);
  const [dragged, setDragged] = useState<{ readonly what: Picked; readonly isLow: boolean } | undefined>();
  const layout = useMemo(() => railBoard(place.site), [place.site]);
  const isPhone = usePhone();
  const [isBoard, setBoard] = useState(false);
  const isTree = isPhone && !isBoard;
  // While a CT is dragged everything stands still under it.
  const isLow = dragged?.isLow ?? (!isPhone && place.picked === undefined);
  useEscape(place);
  const frame = useRef<HTMLDivElement>(null);
  const { zoom, zoomBy, fit } = useZoom(frame, layout);
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
        setDragged({ what: what.data, isLow });
        place.pick(what.data);
      }}
      onDragEnd={drop}
      onDragCancel={() => setDragged(undefined)}
    >
      <div className="flex h-full flex-col max-md:h-auto">
        <h2 className="sr-only">{PLACE_WORDS.place}</h2>
        <HandWords place={place} />
        <StateBar place={place} zoomBy={zoomBy} fit={fit} isZoomable={!isTree} />
        {isPhone && <BoardSwitch isBoard={isBoard} onSwitch={() => setBoard(!isBoard)} />}
        {isTree ? (
          <CircuitTree place={place} panel={<ClampPanel place={place} />} />
        ) : (
          <Board place={place} layout={layout} frame={frame} zoom={zoom} isLow={isLow} isPhone={isPhone} />
        )}
      </div>
      <DragOverlay dropAnimation={null}>
        {dragged && <ClipFace site={place.site} picked={dragged.what} lifted />}
      </DragOverlay>
    </DndContext>
  );
}

interface BoardProps {
  readonly place: PlaceDesk;
  readonly layout: RailBoardLayout;
  readonly frame: RefObject<HTMLDivElement | null>;
  readonly zoom: number;
  readonly isLow: boolean;
  readonly isPhone: boolean;
}

/** The rail board with its meters below; low while nothing is picked, so that the board has the room. */
function Board({ place, layout, frame, zoom, isLow, isPhone }: BoardProps) {
  // What is no phone is not known before the page runs; until then a phone shows neither.
  return (
    <div className={isPhone ? "contents" : "contents max-md:hidden"}>
      <RailBoardView place={place} layout={layout} frame={frame} zoom={zoom} />
      <div className={`flex border-t border-base-300 bg-base-200 max-md:flex-col ${isLow ? "" : "md:h-[15rem]"}`}>
        <MeterTray place={place} isLow={isLow} />
        {!isLow && <ClampPanel place={place} />}
      </div>
      {isLow && <HowTo />}
    </div>
  );
}

function HowTo() {
  return (
    <div className="flex items-center gap-4 border-t border-base-300 bg-base-200 px-3 py-1 max-md:hidden">
      <p className="quiet flex-1 text-sm">
        {PLACE_WORDS.dragACtOrTapItAndThenAConductor} <kbd>?</kbd> {PLACE_WORDS.listsTheOthers}
      </p>
      <div className="flex-[2]">
        <ClampCaution />
      </div>
    </div>
  );
}

/** What the keys do, for who hears the page, and what became of the CT that they moved. */
function HandWords({ place }: { place: PlaceDesk }) {
  const { site, held, settled } = place;
  const shown = held ?? settled?.ct;
  const ct = site.cts.find(({ id }) => id === shown);
  const done = held === undefined && settled ? SETTLED_WORDS[settled.how] : PLACE_WORDS.pickedUp;
  return (
    <div className="relative">
      <p id="clip-keys" className="sr-only">
        {PLACE_WORDS.enterPicksItUpArrowsThenMoveItF}
      </p>
      <p role="status" aria-label={PLACE_WORDS.inTheHand} className="sr-only">
        {ct && `${done}: ${clipLabel(site, ct)}`}
      </p>
    </div>
  );
}

/** Escape puts back or down whatever the page's focus is on, and the hand is where it was. */
function useEscape(place: PlaceDesk): void {
  const latest = useRef(place);
  useEffect(() => {
    latest.current = place;
  }, [place]);
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      const { held, picked, takeBack, putDown } = latest.current;
      if (event.key !== "Escape" || event.defaultPrevented || !picked) return;
      if (held === undefined) putDown();
      else takeBack();
      const there = picked.kind === "clip" ? `[data-ct="${CSS.escape(picked.ct)}"]` : undefined;
      if (there) document.querySelector<HTMLElement>(there)?.focus();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
}

/** What lies under the pointer; beside everything, what the CT itself touches. */
const underPointer: CollisionDetection = (args) => {
  const under = pointerWithin(args);
  return under.length > 0 ? under : rectIntersection(args);
};
