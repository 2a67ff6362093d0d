import { CircleAlert, Info, OctagonX } from "lucide-react";
import type { FindingSeverity } from "@/core/findings";
import { PARTS_WORDS } from "@/ui/words/partsWords";

const MARKS = {
  stop: { Icon: OctagonX, colour: "text-error", pattern: "stop-pattern" },
  fix: { Icon: CircleAlert, colour: "text-warning", pattern: "fix-pattern" },
  note: { Icon: Info, colour: "text-info", pattern: "note-pattern" },
} as const;

const WORDS: Readonly<Record<FindingSeverity, string>> = {
  stop: PARTS_WORDS.stop,
  fix: PARTS_WORDS.toFix,
  note: PARTS_WORDS.note,
};

/** A finding's level as word, shape and pattern besides its colour. */
export function FindingMark({ level, count }: { level: FindingSeverity; count?: number }) {
  const { Icon, colour, pattern } = MARKS[level];
  return (
    <span className={`inline-flex items-center gap-1 whitespace-nowrap text-sm font-semibold ${colour}`}>
      <span className={`inline-block h-4 w-1.5 rounded-sm ${pattern}`} aria-hidden />
      <Icon size={16} aria-hidden />
      {count === undefined ? WORDS[level] : countText(level, count)}
    </span>
  );
}

/** "2 to fix", "1 note". */
function countText(level: FindingSeverity, count: number): string {
  return `${count} ${level === "note" && count !== 1 ? PARTS_WORDS.notes : WORDS[level]}`;
}
