import {
  REPORT_LANGUAGE_IDS,
  REPORT_LANGUAGES,
  type ReportLanguage,
} from "@/core/handover/report/words/reportLanguages";
import { SelectField } from "@/ui/parts/form/SelectField";

interface Props {
  readonly label: string;
  readonly language: ReportLanguage;
  readonly onLanguage: (language: ReportLanguage) => void;
}

/** One of the languages that a report is written in. */
export function ReportLanguageField({ label, language, onLanguage }: Props) {
  return (
    <SelectField
      label={label}
      value={language}
      options={REPORT_LANGUAGE_IDS.map((value) => ({ value, label: REPORT_LANGUAGES[value].name }))}
      onValue={(value) => onLanguage(REPORT_LANGUAGE_IDS.find((own) => own === value) ?? "en")}
    />
  );
}
