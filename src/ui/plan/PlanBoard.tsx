"use client";

import { ChevronLeft, ChevronRight } from "lucide-react";
import { useMemo, useRef } from "react";
import { PLAN_BOARD, railBoard, type Box, type DrawnClip } from "@/core/board/railBoard";
import { resolve } from "@/core/plan/resolve";
import { idealCt } from "@/core/site/idealCt";
import { inputTag } from "@/core/site/inputTag";
import type { Site, SiteNode, Ct } from "@/core/site/planSchema";
import { powerText } from "@/core/units";
import { RailDrawing } from "@/ui/board/RailDrawing";
import { ZoomButtons } from "@/ui/board/ZoomButtons";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { useZoom } from "@/ui/place/useZoom";
import type { PlanDesk, PlanPick } from "@/ui/plan/usePlan";
import { PLAN_WORDS } from "@/ui/words/planWords";

const RAIL_WIDTH = 4;

interface Props {
  readonly plan: PlanDesk;
  readonly onPick: (picked: PlanPick) => void;
  /** Leaves room for a panel below. */
  readonly isLow: boolean;
}

/** The board in plan mode: what stands where, and the CTs as they are to be. Press a device or a CT to edit it. */
export function PlanBoard({ plan, onPick, isLow }: Props) {
  const { site, document, picked } = plan;
  const planned = useMemo(() => plannedSite(site), [site]);
  const layout = useMemo(() => railBoard(planned, PLAN_BOARD), [planned]);
  const frame = useRef<HTMLDivElement>(null);
  const { zoom, zoomBy, fit } = useZoom(frame, layout);
  return (
    <div
      className={`relative min-h-0 ${isLow ? "md:h-[42%] md:flex-none" : "flex-1"} max-md:h-[38dvh] max-md:flex-none`}
    >
      <div
        ref={frame}
        className="h-full overflow-auto"
        tabIndex={0}
        role="region"
        aria-label={PLAN_WORDS.railBoardOfThePlan}
      >
        <div className="relative mx-auto" style={{ width: layout.width, height: layout.height, zoom }}>
          <RailDrawing layout={layout} scheme={document.job.colourScheme} railWidth={RAIL_WIDTH} named />
          {layout.nodes.map(({ node, shape, label }) => (
            <NodeButton
              key={node.id}
              plan={plan}
              node={node}
              isPost={shape === "post"}
              box={label}
              isPicked={picked?.kind === "node" && picked.id === node.id}
              onPick={onPick}
            />
          ))}
          {layout.clips.map((clip) => (
            <PlannedClip
              key={`${clip.ct} ${clip.windowAt}`}
              plan={plan}
              plug={planned.cts.find((ct) => ct.id === clip.ct)?.plug}
              clip={clip}
              onPick={onPick}
            />
          ))}
        </div>
      </div>
      <div className="absolute bottom-2 left-2 flex max-md:hidden rounded-md border border-base-300 bg-base-200">
        <ZoomButtons zoomBy={zoomBy} fit={fit} />
      </div>
    </div>
  );
}

function PlannedClip({
  plan: { site, document, picked },
  plug,
  clip,
  onPick,
}: {
  plan: PlanDesk;
  plug: Ct["plug"] | undefined;
  clip: DrawnClip;
  onPick: Props["onPick"];
}) {
  const setups = plug && resolve(document).meterById.get(plug.meter)?.inputs;
  const input = setups?.find((setup) => setup.input.n === plug?.input)?.input;
  if (!plug || !input) return null;
  const isPicked = picked?.kind === "input" && picked.meter === plug.meter && picked.input === plug.input;
  const Chevron = input.arrow === "to-grid" ? ChevronLeft : ChevronRight;
  return (
    <button
      type="button"
      aria-pressed={isPicked}
      tabIndex={clip.windowAt === 0 ? 0 : -1}
      aria-label={PLAN_WORDS.ctOfArrow(
        inputTag(site, plug.meter, plug.input),
        input.arrow === "to-grid" ? PLAN_WORDS.towardTheGrid : PLAN_WORDS.towardTheLoads,
      )}
      className={
        "absolute flex flex-col items-center justify-center rounded-md border-2 text-xs " +
        "font-bold leading-none " +
        `${isPicked ? "border-primary bg-primary text-primary-content" : "border-base-content bg-base-100"}`
      }
      style={boxStyle(clip.box)}
      onClick={() => onPick({ kind: "input", meter: plug.meter, input: plug.input })}
    >
      {inputTag(site, plug.meter, plug.input)}
      <Chevron size={14} strokeWidth={4} aria-hidden />
    </button>
  );
}

function NodeButton({
  plan,
  node,
  isPost,
  box,
  isPicked,
  onPick,
}: {
  plan: PlanDesk;
  node: SiteNode;
  isPost: boolean;
  box: Box;
  isPicked: boolean;
  onPick: Props["onPick"];
}) {
  const say = useSay();
  const { site, findings } = plan;
  const place = site.places.find((candidate) => candidate.id === node.place)?.name;
  const isMarked = findings.some(
    (finding) => finding.subject.kind === "node" && finding.subject.node === node.id && finding.severity !== "note",
  );
  if (isPost) {
    return <PostButton isPicked={isPicked} node={node} box={box} onPick={onPick} plan={plan} />;
  }
  const small = [
    node.ratedW ? powerText(node.ratedW) : undefined,
    node.existing ? PLAN_WORDS.existing : undefined,
    place,
  ]
    .filter((part) => part !== undefined)
    .join(" · ");
  return (
    <button
      type="button"
      aria-pressed={isPicked}
      data-node={node.id}
      className={
        "absolute flex flex-col justify-center rounded-md border-2 px-2 text-left leading-tight " +
        (isPicked
          ? "border-primary bg-primary text-primary-content "
          : `${isMarked ? "border-warning" : "border-secondary"} bg-base-200 `) +
        `${node.existing || node.kind === "test-load" ? "border-dashed" : ""}`
      }
      style={boxStyle(box)}
      onClick={() => onPick({ kind: "node", id: node.id })}
    >
      <span className="line-clamp-2 text-[15px] font-bold leading-[17px]">{node.name}</span>
      <span className="truncate text-xs">{say(small) || PLAN_WORDS.noRating}</span>
    </button>
  );
}

function PostButton({
  isPicked,
  node,
  box,
  onPick,
  plan,
}: {
  isPicked: boolean;
  node: SiteNode;
  box: Box;
  onPick: (picked: PlanPick) => void;
  plan: PlanDesk;
}) {
  const { site } = plan;
  const say = useSay();
  return (
    <button
      type="button"
      aria-pressed={isPicked}
      data-node={node.id}
      disabled={node.kind === "grid"}
      className={
        "absolute rounded px-0.5 text-left text-sm leading-tight " +
        // Its name is lower than a thumb.
        "before:absolute before:inset-x-0 before:-top-4 before:h-11 " +
        `${isPicked ? "bg-primary text-primary-content" : "hover:underline"}`
      }
      style={boxStyle(box)}
      onClick={() => onPick({ kind: "node", id: node.id })}
    >
      <span className="block truncate font-bold">
        {node.name}
        {node.kind === "grid" && site.supply.mainFuseA !== undefined && (
          <span className="ml-1 text-xs font-normal">{say(`${site.supply.mainFuseA} A`)}</span>
        )}
      </span>
    </button>
  );
}

/** The site with a CT as planned on every input, whatever was fitted since. */
function plannedSite(site: Site): Site {
  return { ...site, cts: site.meters.flatMap((meter) => meter.inputs.map((input) => idealCt(meter, input))) };
}

function boxStyle({ x, y, width, height }: Box) {
  return { left: x, top: y, width, height };
}
