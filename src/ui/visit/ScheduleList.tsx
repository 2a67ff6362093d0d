"use client";

import { Printer } from "lucide-react";
import { scheduleLines } from "@/core/visit/timelineLanes";
import type { Timeline } from "@/ui/visit/useTimeline";
import { VISIT_WORDS } from "@/ui/words/visitWords";

interface Props {
  readonly timeline: Timeline;
  readonly placeOf: (step: string) => string;
  readonly onShow: (step: string) => void;
}

/** The schedule as a list in order with its times: to be read on a phone, and to be printed. */
export function ScheduleList({ timeline: { lanes, path, atText, titleOf }, placeOf, onShow }: Props) {
  return (
    <section aria-label={VISIT_WORDS.scheduleAsAList} className="print-part">
      <div className="mb-1 flex items-center gap-3">
        <h3 className="mr-auto font-bold">{VISIT_WORDS.inOrderWithTimes}</h3>
        <button type="button" className="btn btn-sm press print:hidden" onClick={() => window.print()}>
          <Printer size={18} aria-hidden />
          {VISIT_WORDS.print}
        </button>
      </div>
      <ol>
        {scheduleLines(lanes).map(({ step, kind, who, fromMin, toMin }) => (
          <li
            key={`${who} ${step} ${kind}`}
            className={
              "grid break-inside-avoid grid-cols-[auto_1fr] items-baseline gap-x-3 border-b border-base-300 py-1"
            }
          >
            <span className="reading">{atText(fromMin)}</span>
            <span>
              {kind === "walk" ? (
                VISIT_WORDS.walkTo(placeOf(step))
              ) : (
                <button
                  type="button"
                  className={`press block text-left hover:underline ${kind === "work" ? "font-bold" : ""}`}
                  onClick={() => onShow(step)}
                >
                  {titleOf(step)}
                </button>
              )}
              <span className="quiet block text-sm">
                {[
                  VISIT_WORDS.to(atText(toMin)),
                  who,
                  kind === "work" ? placeOf(step) : undefined,

                  kind === "work" && path.includes(step) ? VISIT_WORDS.criticalPath : undefined,
                ]
                  .filter(Boolean)
                  .join(", ")}
              </span>
            </span>
          </li>
        ))}
      </ol>
    </section>
  );
}
