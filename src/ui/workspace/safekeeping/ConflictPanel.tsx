"use client";

import { useWhen } from "@/ui/parts/browser/useWhen";
import { useMemo, useState } from "react";
import { madeJobSchema } from "@/core/answers/jobAnswers";
import { copyOfJob } from "@/core/job/copyOfJob";
import { mergeJobs, type MergeConflict, type MergeSide } from "@/core/job/mergeJobs";
import { callApi } from "@/ui/parts/server/apiClient";
import { useRepeatableId } from "@/ui/parts/server/useRepeatableId";
import type { SaveStatus } from "@/ui/workspace/safekeeping/jobEditor";
import { useEditor, useJob } from "@/ui/workspace/workspaceContext";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

type Conflict = Extract<SaveStatus, { kind: "conflict" }>;
type Choices = ReadonlyMap<string, MergeSide>;

/**
 * What was changed both here and elsewhere, field by field in words, and whose value goes on; all else of both goes on
 * anyway. Nothing is lost by any choice.
 */
export function ConflictPanel({ conflict }: { conflict: Conflict }) {
  const when = useWhen();
  const { theirs, base, hasMovedOn } = conflict;
  const { document } = useJob();
  const [choices, setChoices] = useState<Choices>(new Map());
  const merge = useMemo(() => base && mergeJobs(base, document, theirs.document), [base, document, theirs]);
  const conflicts = merge?.conflicts ?? [];
  const choose = (ids: readonly string[], side: MergeSide) =>
    setChoices(new Map([...choices, ...ids.map((id) => [id, side] as const)]));
  return (
    <section
      role="alertdialog"
      aria-label={WORKSPACE_WORDS.thisJobWasChangedInTwoPlaces}
      className="max-h-[60dvh] overflow-auto border-b-4 border-error bg-base-100 p-3"
    >
      <h2 className="text-lg font-bold">{WORKSPACE_WORDS.thisJobWasChangedInTwoPlaces}</h2>
      <p>{WORKSPACE_WORDS.nothingWasOverwrittenElsewhere(when(theirs.savedAt, "second"), theirs.revision)}</p>
      {hasMovedOn && (
        <p role="status" className="font-semibold text-warning">
          {WORKSPACE_WORDS.itWasChangedElsewhereOnceMoreWhile}
        </p>
      )}
      {merge ? (
        <>
          <p>
            {WORKSPACE_WORDS.changedInBothChooseWhatGoesOnAll(
              conflicts.length === 1 ? WORKSPACE_WORDS.oneThingWas : WORKSPACE_WORDS.thingsWere(conflicts.length),
            )}
          </p>
          <FieldChoices conflicts={conflicts} choices={choices} choose={choose} />
          <FieldButtons conflicts={conflicts} choices={choices} choose={choose} />
        </>
      ) : (
        <WholeChoice />
      )}
    </section>
  );
}

interface FieldProps {
  readonly conflicts: readonly MergeConflict[];
  readonly choices: Choices;
  readonly choose: (ids: readonly string[], side: MergeSide) => void;
}

function FieldChoices({ conflicts, choices, choose }: FieldProps) {
  return (
    <ul className="mt-2 divide-y divide-base-300">
      {conflicts.map(({ id, where, mine, theirs }) => (
        <li key={id} className="py-2">
          <fieldset className="flex flex-wrap items-center gap-2">
            <legend className="float-left mr-2 font-semibold">{where}</legend>
            {(["mine", "theirs"] as const).map((side) => (
              <label
                key={side}
                className={`press flex items-center gap-2 rounded border px-3 py-2 ${
                  choices.get(id) === side ? "border-primary bg-base-200 font-semibold" : "border-base-300"
                }`}
              >
                <input
                  type="radio"
                  name={id}
                  className="radio radio-sm"
                  checked={choices.get(id) === side}
                  onChange={() => choose([id], side)}
                />
                <span>
                  <span className="quiet text-sm">
                    {side === "mine" ? WORKSPACE_WORDS.here : WORKSPACE_WORDS.elsewhere}
                  </span>{" "}
                  <span className="reading whitespace-normal">{side === "mine" ? mine : theirs}</span>
                </span>
              </label>
            ))}
          </fieldset>
        </li>
      ))}
    </ul>
  );
}

function FieldButtons({ conflicts, choices, choose }: FieldProps) {
  const editor = useEditor();
  const all = conflicts.map(({ id }) => id);
  const [isUnfit, setUnfit] = useState(false);
  return (
    <div className="mt-3 flex flex-wrap gap-2">
      <button
        type="button"
        className="btn btn-primary press"
        disabled={!all.every((id) => choices.has(id))}
        onClick={() => setUnfit(!editor.resolveBy((id) => choices.get(id) ?? "mine"))}
      >
        {WORKSPACE_WORDS.goOnWithThese}
      </button>
      {conflicts.length > 1 && (
        <>
          <button type="button" className="btn press" onClick={() => choose(all, "mine")}>
            {WORKSPACE_WORDS.allMine}
          </button>
          <button type="button" className="btn press" onClick={() => choose(all, "theirs")}>
            {WORKSPACE_WORDS.allFromElsewhere}
          </button>
        </>
      )}
      <KeepBoth />
      {isUnfit && (
        <p role="alert" className="basis-full font-semibold text-error">
          {WORKSPACE_WORDS.theseDoNotFitInOneJobOneOfThemUses}
        </p>
      )}
    </div>
  );
}

/** Of versions that cannot stand in one job, or of which nobody knows what they grew from, one goes on. */
function WholeChoice() {
  const editor = useEditor();
  return (
    <>
      <p>{WORKSPACE_WORDS.theTwoDoNotFitInOneJobChoose}</p>
      <div className="mt-3 flex flex-wrap gap-2">
        <button type="button" className="btn btn-primary press" onClick={() => editor.resolve("mine")}>
          {WORKSPACE_WORDS.goOnWithMine}
        </button>
        <button type="button" className="btn press" onClick={() => editor.resolve("theirs")}>
          {WORKSPACE_WORDS.goOnWithTheOtherUndoBringsMineBack}
        </button>
        <KeepBoth />
      </div>
    </>
  );
}

function KeepBoth() {
  const editor = useEditor();
  const { document } = useJob();
  const [failed, setFailed] = useState(false);
  const { idFor } = useRepeatableId();
  const keepBoth = async () => {
    const body = JSON.stringify(copyOfJob(document, [document.job.name]));
    const answer = await callApi("POST", `/api/v1/jobs/import?id=${idFor(body)}`, madeJobSchema, body).catch(
      () => undefined,
    );
    setFailed(answer?.kind !== "ok");
    if (answer?.kind === "ok") editor.resolve("theirs");
  };
  return (
    <>
      <button type="button" className="btn press" onClick={() => void keepBoth()}>
        {WORKSPACE_WORDS.goOnWithTheOtherKeepMineAsACopy}
      </button>
      {failed && (
        <p role="alert" className="basis-full font-semibold text-error">
          {WORKSPACE_WORDS.theCopyCouldNotBeKeptNothing}
        </p>
      )}
    </>
  );
}
