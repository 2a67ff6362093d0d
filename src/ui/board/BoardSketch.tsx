"use client";

import { ChevronLeft, ChevronRight } from "lucide-react";
import { useMemo, useRef } from "react";
import { railBoard, SMALL_BOARD } from "@/core/board/railBoard";
import type { ColourScheme } from "@/core/site/conductorColours";
import type { Site } from "@/core/site/planSchema";
import { inputTag } from "@/core/site/inputTag";
import { useElementSize } from "@/ui/board/useElementSize";
import { RailDrawing } from "@/ui/board/RailDrawing";

interface Props {
  readonly site: Site;
  readonly scheme: ColourScheme;
  /** Tags of the inputs to point out. */
  readonly marked: ReadonlySet<string>;
  readonly label: string;
  /** Drawn as large as the width there is and this height allow, px; as it is when left out. */
  readonly fitHeight?: number;
}

const LARGEST_ZOOM = 1.6;

/** A small board that only shows a fitting: which CT is where, which way round, and which of them is meant. */
export function BoardSketch({ site, scheme, marked, label, fitHeight }: Props) {
  const layout = useMemo(() => railBoard(site, SMALL_BOARD), [site]);
  const frame = useRef<HTMLDivElement>(null);
  const width = useElementSize(frame)?.width;
  const zoom = fitHeight && width ? Math.min(LARGEST_ZOOM, width / layout.width, fitHeight / layout.height) : 1;
  return (
    <div
      ref={frame}
      role="img"
      aria-label={label}
      className="overflow-x-auto rounded border border-base-300 bg-base-100"
    >
      <div
        className={`relative ${fitHeight ? "mx-auto" : ""}`}
        style={{ width: layout.width, height: layout.height, zoom }}
      >
        <RailDrawing layout={layout} scheme={scheme} railWidth={3} named={false} />
        {layout.nodes.map(({ node, label: box }) => (
          <span
            key={node.id}
            className="absolute flex items-center overflow-hidden text-ellipsis whitespace-nowrap text-xs"
            style={{ left: box.x, top: box.y, width: box.width, height: box.height }}
          >
            <span className="truncate rounded bg-base-100 px-1">{node.name}</span>
          </span>
        ))}
        {layout.clips.map((clip) => {
          const ct = site.cts.find((candidate) => candidate.id === clip.ct);
          const tag = ct?.plug ? inputTag(site, ct.plug.meter, ct.plug.input) : "–";
          const isMarked = marked.has(tag);
          const Chevron = ct?.arrow === "to-grid" ? ChevronLeft : ChevronRight;
          return (
            <span
              key={`${clip.ct} ${clip.windowAt}`}
              className={
                "absolute flex flex-col items-center justify-center rounded border-2 text-[10px] " +
                "font-bold leading-none " +
                `${isMarked ? "border-primary bg-primary text-primary-content" : "border-secondary bg-base-100"}`
              }
              style={{ left: clip.box.x, top: clip.box.y, width: clip.box.width, height: clip.box.height }}
            >
              {tag}
              <Chevron size={12} strokeWidth={4} className="-mt-px" />
            </span>
          );
        })}
      </div>
    </div>
  );
}
