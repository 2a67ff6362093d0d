"use client";

import { format, parseISO } from "date-fns";
import { useState } from "react";
import { madeJobSchema } from "@/core/answers/jobAnswers";
import { copyOfJob } from "@/core/job/copyOfJob";
import { differences, type Difference } from "@/core/job/differences";
import { callApi } from "@/ui/parts/server/apiClient";
import { useRepeatableId } from "@/ui/parts/server/useRepeatableId";
import type { ServerJob } from "@/ui/workspace/safekeeping/jobEditor";
import { useEditor, useJob } from "@/ui/workspace/workspaceContext";

/**
 * Both versions of a job that was changed in two places, with where they differ, and the choices. Nothing is lost by
 * any.
 */
export function ConflictPanel({ theirs }: { theirs: ServerJob }) {
  const editor = useEditor();
  const job = useJob();
  const [failed, setFailed] = useState(false);
  const { idFor } = useRepeatableId();
  const found = differences(job.document, theirs.document);

  const keepBoth = async () => {
    const copy = copyOfJob(job.document, [job.document.job.name]);
    const body = JSON.stringify(copy);
    const answer = await callApi("POST", `/api/v1/jobs/import?id=${idFor(body)}`, madeJobSchema, body).catch(
      () => undefined,
    );
    setFailed(answer?.kind !== "ok");
    if (answer?.kind === "ok") editor.resolve("theirs");
  };

  return (
    <section
      role="alertdialog"
      aria-label="This job was changed in two places"
      className="max-h-[55dvh] overflow-auto border-b-4 border-error bg-base-100 p-3"
    >
      <h2 className="text-lg font-bold">This job was changed in two places</h2>
      <p>
        Nothing was overwritten. Revision {theirs.revision} was saved elsewhere at{" "}
        {format(parseISO(theirs.savedAt), "HH:mm:ss")}; yours is still here, not saved. Choose which goes on.
      </p>
      <DifferenceTable found={found} />
      {failed && (
        <p role="alert" className="mt-2 font-semibold text-error">
          The copy could not be kept; nothing was changed. Try again.
        </p>
      )}
      <div className="mt-3 flex flex-wrap gap-2">
        <button type="button" className="btn btn-primary press" onClick={() => editor.resolve("mine")}>
          Go on with mine
        </button>
        <button type="button" className="btn press" onClick={() => editor.resolve("theirs")}>
          Go on with the other (undo brings mine back)
        </button>
        <button type="button" className="btn press" onClick={() => void keepBoth()}>
          Go on with the other, keep mine as a copy
        </button>
      </div>
    </section>
  );
}

function DifferenceTable({ found }: { found: readonly Difference[] }) {
  return (
    <table className="mt-2 w-full text-left">
      <thead>
        <tr className="border-b border-base-300">
          <th scope="col" className="pr-3">
            Where they differ
          </th>
          <th scope="col" className="pr-3">
            Yours, here
          </th>
          <th scope="col">Saved elsewhere</th>
        </tr>
      </thead>
      <tbody>
        {found.map((difference) => (
          <tr key={difference.path} className="border-b border-base-300 align-top">
            <td className="reading whitespace-normal break-all pr-3 text-sm">{difference.path}</td>
            <td className="reading whitespace-normal break-all pr-3 text-sm">{difference.mine}</td>
            <td className="reading whitespace-normal break-all text-sm">{difference.theirs}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
