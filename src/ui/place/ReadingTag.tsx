import { CircleAlert } from "lucide-react";
import type { Box } from "@/core/board/railBoard";
import type { ComparedReading } from "@/core/flows/compareReadings";
import type { Site } from "@/core/site/planSchema";
import { FlowValue } from "@/ui/parts/show/FlowValue";
import { PLACE_WORDS } from "@/ui/words/placeWords";

/** What the input of a CT should read, and reads as fitted, beside the CT. */
export function ReadingTag({ box, site, reading }: { box: Box; site: Site; reading: ComparedReading | undefined }) {
  return (
    <div
      className={
        "pointer-events-none absolute z-20 flex flex-col justify-center rounded-md border bg-base-100 " +
        `px-1.5 text-sm leading-[1.3] ${reading?.differs ? "border-2 border-warning" : "border-base-300"}`
      }
      style={{ left: box.x, top: box.y, width: box.width, height: box.height }}
    >
      {reading ? (
        <ReadingLines site={site} reading={reading} />
      ) : (
        <span className="quiet">{PLACE_WORDS.notPluggedIn}</span>
      )}
    </div>
  );
}

/** The two lines *expected* and *as fitted*, with a mark and the word where they differ. */
export function ReadingLines({ site, reading }: { site: Site; reading: ComparedReading }) {
  return (
    <>
      <span className="flex items-center justify-between gap-x-1 max-md:flex-wrap">
        <span className="quiet w-16 flex-none text-xs">{PLACE_WORDS.expected}</span>
        <FlowValue site={site} run={reading.run} shownW={reading.shouldW} towardLoadW={reading.shouldTowardLoadW} />
      </span>
      <ReadsLine site={site} reading={reading} />
    </>
  );
}

/** The line *as fitted* alone: what the input reads with its CT as it stands on the board. */
export function ReadsLine({ site, reading }: { site: Site; reading: ComparedReading }) {
  return (
    <span
      className={`flex items-center justify-between gap-x-1 max-md:flex-wrap ${reading.differs ? "text-warning" : ""}`}
    >
      <span className="flex w-16 flex-none items-center gap-0.5 whitespace-nowrap text-xs">
        {reading.differs ? (
          <>
            <CircleAlert size={13} aria-hidden />
            <span className="font-bold">{PLACE_WORDS.asFitted}</span>
            <span className="sr-only"> {PLACE_WORDS.otherwise}</span>
          </>
        ) : (
          <span className="quiet">{PLACE_WORDS.asFitted}</span>
        )}
      </span>
      {reading.readsW === undefined || reading.readsTowardLoadW === undefined ? (
        <span>{PLACE_WORDS.cannotReadThisCt}</span>
      ) : (
        <FlowValue site={site} run={reading.run} shownW={reading.readsW} towardLoadW={reading.readsTowardLoadW} />
      )}
    </span>
  );
}
