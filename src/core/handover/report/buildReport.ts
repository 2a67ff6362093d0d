import { handoverItems, handoverState, type HandoverGround } from "@/core/handover/handoverItems";
import { momentText } from "@/core/momentText";
import { paperSection } from "@/core/handover/report/paperSection";
import { proofSections } from "@/core/handover/report/proofSections";
import { section, table } from "@/core/handover/report/section";
import { siteSections } from "@/core/handover/report/siteSections";
import type { Report, ReportSection } from "@/core/handover/report/reportSchema";
import { resolve } from "@/core/plan/resolve";
import { LOG_WORDS, type LogLine } from "@/core/visit/visitLog";

/** What a report is made of. */
export interface ReportGround extends HandoverGround {
  readonly log: readonly LogLine[];
  /** The last hash of the log's chain. */
  readonly logHead: string;
}

const CAUTION =
  "This report says what was measured and recorded. It takes the place of no inspection, of no local rule and of no " +
  "maker's manual.";
/** Of the short form: what is proved, and what it was proved by. */
const SHORT: readonly string[] = ["state", "site", "cts", "readings", "limit"];

/**
 * The report of a job: state, site, devices, CTs, links, readings, limit, settings, way online, and the log.
 *
 * For example: of a job without readings, the part "Readings" says "Nothing was read."
 *
 * @param form Short: what is proved and by what; full: everything.
 */
export function buildReport(ground: ReportGround, form: "short" | "full"): Report {
  const { document, diagnosis, entries, log, logHead, today: printed } = ground;
  const plan = resolve(document);
  const items = handoverItems(ground);
  const pictures = log.flatMap(({ photo, at, person, title, text }) =>
    photo === undefined
      ? []
      : [{ id: photo, caption: [momentText(at), person, title, text].filter(Boolean).join(", ") }],
  );
  const sections: readonly ReportSection[] = [
    section("state", "What is proved, and what is not", {
      lines: [CAUTION],
      tables: [
        table(
          "",
          ["", "What", "Why"],
          items.map(({ state, what, why }) => [state, what, why]),
        ),
      ],
    }),
    ...siteSections(document, plan, entries),
    ...proofSections(document, plan, diagnosis),
    paperSection(document, entries, printed),
    section("photographs", "Photographs", {
      lines: pictures.length === 0 ? ["None was taken."] : [],
      pictures,
    }),
    section("log", "The log", {
      lines: [log.length === 0 ? "Nothing was written yet." : `Last hash: ${logHead}`],
      tables: [
        table(
          "",
          ["When", "Who", "What", "Text"],
          log.map(({ at, person, kind, title, text }) => [
            momentText(at),
            person,
            LOG_WORDS[kind],
            [title, text].filter(Boolean).join(": "),
          ]),
        ),
      ],
    }),
  ];
  return {
    job: document.job.name,
    place: document.job.place,
    printed,
    state: handoverState(items),
    logHead,
    sections: sections.filter(({ id }) => form === "full" || SHORT.includes(id)),
  };
}
