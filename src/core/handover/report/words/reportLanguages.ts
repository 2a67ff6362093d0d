import { REPORT_ENGLISH } from "@/core/handover/report/words/reportEnglish";
import { REPORT_GERMAN } from "@/core/handover/report/words/reportGerman";
import type { ReportWords } from "@/core/handover/report/words/reportWords";

/** The languages that a report is written in, each by its code (BCP 47). A new one is a line here. */
export const REPORT_LANGUAGES = {
  en: { name: "English", words: REPORT_ENGLISH },
  de: { name: "Deutsch", words: REPORT_GERMAN },
} as const satisfies Readonly<Record<string, { readonly name: string; readonly words: ReportWords }>>;

/** A language that a report is written in. */
export type ReportLanguage = keyof typeof REPORT_LANGUAGES;

/** All of them. */
export const REPORT_LANGUAGE_IDS = Object.keys(REPORT_LANGUAGES) as [ReportLanguage, ...ReportLanguage[]];
