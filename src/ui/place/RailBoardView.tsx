"use client";

import { useDroppable } from "@dnd-kit/core";
import type { RefObject } from "react";
import type { DrawnNode, DrawnRail, RailBoardLayout } from "@/core/board/railBoard";
import { powerText } from "@/core/units";
import { flowWord } from "@/core/site/flowWords";
import { nodeName } from "@/core/site/tree";
import { RailDrawing } from "@/ui/board/RailDrawing";
import { FlowArrow } from "@/ui/parts/show/FlowValue";
import { Say } from "@/ui/parts/show/Say";
import { Clip } from "@/ui/place/Clip";
import { ReadingTag } from "@/ui/place/ReadingTag";
import type { PlaceDesk } from "@/ui/place/usePlace";
import { useJob } from "@/ui/workspace/workspaceContext";
import { PLACE_WORDS } from "@/ui/words/placeWords";

const RAIL_WIDTH = 5;

interface Props {
  readonly place: PlaceDesk;
  readonly layout: RailBoardLayout;
  readonly frame: RefObject<HTMLDivElement | null>;
  readonly zoom: number;
}

/** The board to work on: scrolls and zooms; rails take what is picked or dragged. */
export function RailBoardView({ place, layout, frame, zoom }: Props) {
  const job = useJob();
  const { site, state, readings } = place;
  // In the order of their ids, so that a CT that moves keeps its element and with it the keyboard's focus.
  const clips = layout.clips.toSorted((a, b) => a.ct.localeCompare(b.ct) || a.windowAt - b.windowAt);

  return (
    <div className="relative min-h-0 flex-1 max-md:h-[46dvh] max-md:flex-none">
      <div
        ref={frame}
        className="h-full touch-pan-x touch-pan-y overflow-auto"
        tabIndex={0}
        role="region"
        aria-label={PLACE_WORDS.railBoard}
      >
        <div className="relative mx-auto" style={{ width: layout.width, height: layout.height, zoom }}>
          <RailDrawing layout={layout} scheme={job.document.job.colourScheme} railWidth={RAIL_WIDTH} named />
          {layout.rails.map((rail) => (
            <RailStrip key={`${rail.run} ${rail.conductor}`} place={place} rail={rail} />
          ))}
          {layout.nodes.map((drawn) => (
            <NodeLabel
              key={drawn.node.id}
              drawn={drawn}
              place={place}
              powerW={state.devices.find((device) => device.node === drawn.node.id)?.powerW ?? 0}
            />
          ))}
          {clips.map((clip) => (
            <Clip key={`${clip.ct} ${clip.windowAt}`} place={place} clip={clip} />
          ))}
          {clips.map((clip) => {
            const plug = site.cts.find((ct) => ct.id === clip.ct)?.plug;
            const reading =
              plug && readings.find((candidate) => candidate.meter === plug.meter && candidate.input === plug.input);
            return clip.tag && <ReadingTag key={clip.ct} box={clip.tag} site={site} reading={reading ?? undefined} />;
          })}
        </div>
      </div>
    </div>
  );
}

/** One conductor of a run, as a place to put a CT. */
function RailStrip({ place, rail }: { place: PlaceDesk; rail: DrawnRail }) {
  const { run, conductor, strip } = rail;
  const { setNodeRef, isOver } = useDroppable({
    id: `rail ${run} ${conductor}`,
    data: { kind: "rail", run, conductor },
  });
  const { picked } = place;
  const look = isOver
    ? "bg-primary/25 outline-2 outline-primary"
    : picked
      ? "cursor-pointer hover:bg-primary/15"
      : "cursor-default";
  return (
    <button
      ref={setNodeRef}
      type="button"
      tabIndex={picked ? 0 : -1}
      data-run={run}
      data-conductor={conductor}
      data-lit={isOver || undefined}
      aria-label={PLACE_WORDS.ofTheCircuitOf(conductor, nodeName(place.site, run))}
      className={`absolute z-10 ${look}`}
      style={{ left: strip.x, top: strip.y, width: strip.width, height: strip.height }}
      onClick={() => picked && place.putOn(picked, { run, conductor })}
    />
  );
}

function NodeLabel({
  drawn: { node, shape, label },
  place,
  powerW,
}: {
  drawn: DrawnNode;
  place: PlaceDesk;
  powerW: number;
}) {
  if (shape === "post") {
    return (
      <div
        className="absolute text-sm leading-tight"
        style={{ left: label.x, top: label.y, width: label.width, height: label.height }}
      >
        <span className="block truncate font-bold">{node.name}</span>
        {node.kind !== "grid" && node.kind !== "board" && <PowerLine place={place} run={node.id} powerW={powerW} />}
      </div>
    );
  }
  const rating = node.ratedW ? powerText(node.ratedW) : undefined;
  return (
    <div
      data-plate={node.id}
      className={
        "absolute flex flex-col justify-center rounded-md border-2 bg-base-200 px-2 leading-tight " +
        `${node.kind === "test-load" ? "border-dashed border-secondary" : "border-secondary"}`
      }
      style={{ left: label.x, top: label.y, width: label.width, height: label.height }}
    >
      <span className="line-clamp-2 text-[15px] leading-[18px]">
        <b>{node.name}</b>{" "}
        {rating && (
          <span className="quiet reading whitespace-nowrap text-xs">
            <Say>{rating}</Say>
          </span>
        )}
      </span>
      <PowerLine place={place} run={node.id} powerW={powerW} />
    </div>
  );
}

/** A device's present power, with arrow and word. */
function PowerLine({ place, run, powerW }: { place: PlaceDesk; run: string; powerW: number }) {
  return (
    <span className="flex items-center gap-1 text-sm">
      <FlowArrow towardLoadW={powerW} size={15} />
      <span className="reading">
        <Say>{powerText(Math.abs(powerW))}</Say>
      </span>
      <span className="truncate">{flowWord(place.site, run, powerW)}</span>
    </span>
  );
}
