"use client";

import { CircleAlert, Link2, ShieldCheck } from "lucide-react";
import { useState } from "react";
import { chainCheckSchema, type ChainCheck } from "@/core/handover/logChain";
import { callApi, UNREACHABLE } from "@/ui/parts/server/apiClient";
import { useJob } from "@/ui/workspace/workspaceContext";
import { FromServer } from "@/ui/parts/show/FromServer";
import { HANDOVER_WORDS } from "@/ui/words/handoverWords";

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
    <section aria-label={HANDOVER_WORDS.theLog} className="panel space-y-2 p-3">
      <h3 className="text-lg font-bold">{HANDOVER_WORDS.theLog}</h3>
      <p className="text-sm">{HANDOVER_WORDS.eachLineIsChainedToTheOneBefore}</p>
      <div className="flex flex-wrap gap-2">
        <button type="button" className="btn press" onClick={() => void look()}>
          <Link2 size={18} aria-hidden />
          {HANDOVER_WORDS.checkTheLog}
        </button>
        <FromServer className="btn press" href={`/api/v1/jobs/${id}/log.chain`} download>
          {HANDOVER_WORDS.saveItChained}
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
          {HANDOVER_WORDS.lineOf(
            broken.at,
            broken.why === "changed" ? HANDOVER_WORDS.wasChangedAfterItWasWritten : HANDOVER_WORDS.wasNeverChained,
          )}
        </p>
      ) : (
        <p className="flex items-center gap-1 font-semibold text-success">
          <ShieldCheck size={18} aria-hidden />
          {lines === 0
            ? HANDOVER_WORDS.nothingWasWrittenYet
            : lines === 1
              ? HANDOVER_WORDS.oneLineAsItWasWritten
              : HANDOVER_WORDS.linesEachAsItWasWritten(lines)}
        </p>
      )}
      <p className="quiet break-all">
        {HANDOVER_WORDS.lastHash} <span className="font-mono break-all">{head}</span>
      </p>
    </div>
  );
}
