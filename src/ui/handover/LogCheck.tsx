"use client";

import { CircleAlert, Link2, ShieldCheck } from "lucide-react";
import { useState } from "react";
import { chainCheckSchema, type ChainCheck } from "@/core/handover/logChain";
import { callApi, UNREACHABLE } from "@/ui/parts/server/apiClient";
import { useJob } from "@/ui/workspace/workspaceContext";
import { FromServer } from "@/ui/parts/show/FromServer";

/** Whether the log is as it was written; its last hash stands for all of it. */
export function LogCheck() {
  const { id } = useJob();
  const [check, setCheck] = useState<ChainCheck | undefined>();
  const [problem, setProblem] = useState<string | undefined>();
  const look = async () => {
    try {
      const answer = await callApi("GET", `/api/v1/jobs/${id}/log/check`, chainCheckSchema);
      setCheck(answer.kind === "ok" ? answer.value : undefined);
      setProblem(answer.kind === "failed" ? answer.problem.message : undefined);
    } catch {
      setProblem(UNREACHABLE.message);
    }
  };
  return (
    <section aria-label="The log" className="panel space-y-2 p-3">
      <h3 className="text-lg font-bold">The log</h3>
      <p className="text-sm">Each line is chained to the one before: a change of any line is found.</p>
      <div className="flex flex-wrap gap-2">
        <button type="button" className="btn press" onClick={() => void look()}>
          <Link2 size={18} aria-hidden />
          Check the log
        </button>
        <FromServer className="btn press" href={`/api/v1/jobs/${id}/log.chain`} download>
          Save it, chained
        </FromServer>
      </div>
      {problem && (
        <p role="alert" className="text-sm font-semibold text-error">
          {problem}
        </p>
      )}
      {check && <CheckedLine check={check} />}
    </section>
  );
}

function CheckedLine({ check: { lines, head, broken } }: { check: ChainCheck }) {
  return (
    <div role="status" className="text-sm">
      {broken ? (
        <p className="flex items-center gap-1 font-semibold text-error">
          <CircleAlert size={18} aria-hidden />
          Line {broken.at} {broken.why === "changed" ? "was changed after it was written" : "was never chained"}
        </p>
      ) : (
        <p className="flex items-center gap-1 font-semibold text-success">
          <ShieldCheck size={18} aria-hidden />
          {lines === 0
            ? "Nothing was written yet"
            : lines === 1
              ? "One line, as it was written"
              : `${lines} lines, each as it was written`}
        </p>
      )}
      <p className="quiet break-all">
        last hash <span className="font-mono break-all">{head}</span>
      </p>
    </div>
  );
}
