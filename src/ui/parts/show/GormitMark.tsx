import { PARTS_WORDS } from "@/ui/words/partsWords";

/** The mark of Gormit, a CT round a conductor with its arrow, beside the name. */
export function GormitMark() {
  return (
    <span className="inline-flex items-center gap-2 font-bold">
      <svg viewBox="0 0 32 32" width={28} height={28} aria-hidden>
        <rect width="32" height="32" rx="7" className="fill-primary" />
        <path d="M3 11h26M3 21h26" className="stroke-primary-content" strokeWidth="2.4" />
        <rect x="9" y="5" width="12" height="12" rx="3" className="fill-primary-content" />
        <path
          d="m13 8 4 3-4 3"
          fill="none"
          className="stroke-primary"
          strokeWidth="2.2"
          strokeLinecap="round"
          strokeLinejoin="round"
        />
      </svg>
      {PARTS_WORDS.gormit}
    </span>
  );
}
