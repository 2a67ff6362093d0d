import { handoverItems, handoverState, type HandoverGround } from "@/core/handover/handoverItems";
import { asPrinted } from "@/core/job/asPrinted";
import { momentText } from "@/core/momentText";
import { paperSection } from "@/core/handover/report/paperSection";
import { proofSections } from "@/core/handover/report/proofSections";
import { section, table } from "@/core/handover/report/section";
import { siteSections } from "@/core/handover/report/siteSections";
import type { Report, ReportSection } from "@/core/handover/report/reportSchema";
import { REPORT_LANGUAGES, type ReportLanguage } from "@/core/handover/report/words/reportLanguages";
import type { ReportPartId, ReportWords } from "@/core/handover/report/words/reportWords";
import { resolve } from "@/core/plan/resolve";
import type { LogLine } from "@/core/visit/visitLog";

/** What a report is made of. */
export interface ReportGround extends HandoverGround {
  readonly log: readonly LogLine[];
  /** The last hash of the log's chain. */
  readonly logHead: string;
}

/** Of the short form: what is proved, and what it was proved by. */
const SHORT: readonly ReportPartId[] = ["state", "site", "cts", "readings", "limit"];

/**
 * The report of a job: state, site, devices, CTs, links, readings, limit, settings, way online, and the log.
 *
 * For example: of a job without readings, the part "Readings" says "Nothing was read."
 *
 * @param form Short: what is proved and by what; full: everything.
 * @param language Of its own words; what people wrote, findings and steps stay as they are.
 */
export function buildReport(ground: ReportGround, form: "short" | "full", language: ReportLanguage = "en"): Report {
  const { document, diagnosis, entries, log, logHead, today: printed } = ground;
  const { words } = REPORT_LANGUAGES[language];
  const say = asPrinted(document);
  const plan = resolve(document);
  const items = handoverItems(ground, words.items);
  const sections: readonly ReportSection[] = [
    section("state", words.parts.state, {
      lines: [words.caution, ...(words.otherwise === undefined ? [] : [words.otherwise])],
      tables: [
        table(
          "",
          words.heads.state,
          items.map(({ state, what, why }) => [words.states[state], what, say(why)]),
        ),
      ],
    }),
    ...siteSections(document, plan, entries, words),
    ...proofSections(document, plan, diagnosis, words),
    paperSection(document, entries, printed, words),
    ...logSections(log, logHead, words),
  ];
  return {
    language,
    job: document.job.name,
    place: document.job.place,
    printed,
    state: handoverState(items, words.items),
    logHead,
    sections: sections.filter(({ id }) => form === "full" || SHORT.some((own) => own === id)),
  };
}

/** The photographs, and the log. */
function logSections(log: readonly LogLine[], logHead: string, words: ReportWords): readonly ReportSection[] {
  const pictures = log.flatMap(({ photo, at, person, title, text }) =>
    photo === undefined
      ? []
      : [{ id: photo, caption: [momentText(at), person, title, text].filter(Boolean).join(", ") }],
  );
  const rows = log.map(({ at, person, kind, title, text }) => [
    momentText(at),
    person,
    words.logKinds[kind],
    [title, text].filter(Boolean).join(": "),
  ]);
  return [
    section("photographs", words.parts.photographs, {
      lines: pictures.length === 0 ? [words.noPhotograph] : [],
      pictures,
    }),
    section("log", words.parts.log, {
      lines: [log.length === 0 ? words.emptyLog : words.lastHash(logHead)],
      tables: [table("", words.heads.log, rows)],
    }),
  ];
}
