import { PARTS_WORDS } from "@/ui/words/partsWords";

/** That something could not be computed, and why; nothing where it could. */
export function Failure({ of, why }: { of: string; why: string | undefined }) {
  if (why === undefined) return null;
  return (
    <p role="alert" className="rounded border-2 border-error p-2 text-sm">
      <b>{PARTS_WORDS.cannotBeComputed(of)}</b> {PARTS_WORDS.putTheValueRightTheFindingsNameIt(why)}
    </p>
  );
}
