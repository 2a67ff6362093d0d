import { PARTS_WORDS } from "@/ui/words/partsWords";

const MOST_PROBLEMS = 8;

/** What of a file could not be read, the first few of it. */
export function ProblemLines({ problems }: { readonly problems: readonly string[] }) {
  return (
    <div role="alert" className="text-error">
      <p className="font-semibold">{PARTS_WORDS.notReadYetNothingIsLost}</p>
      {problems.slice(0, MOST_PROBLEMS).map((problem) => (
        <p key={problem} className="text-sm">
          {problem}
        </p>
      ))}
      {problems.length > MOST_PROBLEMS && (
        <p className="text-sm">{PARTS_WORDS.andMore(problems.length - MOST_PROBLEMS)}</p>
      )}
    </div>
  );
}
