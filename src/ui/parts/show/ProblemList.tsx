import { OctagonX } from "lucide-react";
import type { ApiProblem } from "@/ui/parts/server/apiClient";
import { PARTS_WORDS } from "@/ui/words/partsWords";

/** What went wrong, all of it, each with where. */
export function ProblemList({ problem }: { problem: ApiProblem }) {
  return (
    <div role="alert" className="panel border-error p-3">
      <p className="flex items-center gap-2 font-semibold text-error">
        <OctagonX size={18} aria-hidden />
        {problem.message}
      </p>
      {problem.issues.length > 0 && (
        <ul className="mt-2 max-h-72 space-y-1 overflow-auto">
          {problem.issues.map((issue, at) => (
            <li key={at}>
              <code className="reading mr-2 whitespace-normal break-all text-sm font-semibold">
                {issue.path || PARTS_WORDS.file}
              </code>
              {issue.message}
            </li>
          ))}
        </ul>
      )}
    </div>
  );
}
