import { registrationsOf } from "@/core/handover/registration/registrationsDue";
import type { ReportSection } from "@/core/handover/report/reportSchema";
import { section, table } from "@/core/handover/report/section";
import type { ReportWords } from "@/core/handover/report/words/reportWords";
import { transferStages } from "@/core/handover/transfer/transferStages";
import type { JobDocument } from "@/core/job/jobDocument";
import type { VisitEntry } from "@/core/visit/visitEntry";

/**
 * Registrations and transfer of a report: what was sent and confirmed under which reference, and how far the site is
 * the owner's. Where the owner is invited stands nowhere in it.
 *
 * For example: a registration that was sent: its day, and "sent".
 *
 * @param today As a date, 2026-11-20.
 */
export function paperSection(
  document: JobDocument,
  entries: readonly VisitEntry[],
  today: string,
  words: ReportWords,
): ReportSection {
  const { installedOn } = document.registration;
  return section("papers", words.parts.papers, {
    lines: [words.installedOn(installedOn)],
    tables: [
      table(
        words.tables.registrations,
        words.heads.registrations,
        registrationsOf(document, entries).map(({ kit, device, dueOn, status, state }) => [
          kit.what,
          device.name,
          kit.by,
          dueOn,
          [status, state.confirmedOn ?? state.sentOn].filter(Boolean).join(", "),
          state.reference,
        ]),
      ),
      table(
        words.tables.transfer,
        words.heads.transfer,
        transferStages(document, today).map(({ name, isDone, says, problem }) => [
          name,
          words.stageState(isDone ? says : undefined),
          problem,
        ]),
      ),
    ],
  });
}
