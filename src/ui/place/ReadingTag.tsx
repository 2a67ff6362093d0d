import { CircleAlert } from "lucide-react";
import type { Box } from "@/core/board/railBoard";
import type { ComparedReading } from "@/core/flows/compareReadings";
import type { Site } from "@/core/site/planSchema";
import { FlowValue } from "@/ui/parts/show/FlowValue";

/** What the input of a clip should read and reads, beside the clip. */
export function ReadingTag({ box, site, reading }: { box: Box; site: Site; reading: ComparedReading | undefined }) {
  return (
    <div
      className={
        "pointer-events-none absolute z-20 flex flex-col justify-center rounded-md border bg-base-100 " +
        `px-1.5 text-sm leading-[1.3] ${reading?.differs ? "border-2 border-warning" : "border-base-300"}`
      }
      style={{ left: box.x, top: box.y, width: box.width, height: box.height }}
    >
      {reading ? <ReadingLines site={site} reading={reading} /> : <span className="quiet">not plugged in</span>}
    </div>
  );
}

/** The two lines *should* and *reads*, with a mark and the word where they differ. */
function ReadingLines({ site, reading }: { site: Site; reading: ComparedReading }) {
  return (
    <>
      <span className="flex items-center justify-between gap-1">
        <span className="quiet w-12 text-xs">should</span>
        <FlowValue site={site} run={reading.run} shownW={reading.shouldW} towardLoadW={reading.shouldTowardLoadW} />
      </span>
      <ReadsLine site={site} reading={reading} />
    </>
  );
}

/** The line *reads* alone. */
export function ReadsLine({ site, reading }: { site: Site; reading: ComparedReading }) {
  return (
    <span className={`flex items-center justify-between gap-1 ${reading.differs ? "text-warning" : ""}`}>
      <span className="flex w-12 items-center gap-0.5 text-xs">
        {reading.differs ? (
          <>
            <CircleAlert size={13} aria-hidden />
            <span className="font-bold">reads</span>
            <span className="sr-only"> otherwise</span>
          </>
        ) : (
          <span className="quiet">reads</span>
        )}
      </span>
      {reading.readsW === undefined || reading.readsTowardLoadW === undefined ? (
        <span>cannot read this clamp</span>
      ) : (
        <FlowValue site={site} run={reading.run} shownW={reading.readsW} towardLoadW={reading.readsTowardLoadW} />
      )}
    </span>
  );
}
