"use client";

import * as Dialog from "@radix-ui/react-dialog";
import { X } from "lucide-react";
import { copyWords } from "@/core/job/copyMark";
import { jobNameSchema, jobNotesSchema, jobPlaceSchema, type JobDocument } from "@/core/job/jobDocument";
import { supplyWords } from "@/core/site/supplyWords";
import { TextField } from "@/ui/parts/form/TextField";
import { useSayDays } from "@/ui/parts/browser/useWhen";
import { useEditor, useJob } from "@/ui/workspace/workspaceContext";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

const NOTE_LINES = 6;

/** What a job is called, where it is, and what was noted of it. Its name opens it, and is changed in here alone. */
export function JobCard() {
  const { document } = useJob();
  const say = useSayDays();
  const copy = copyWords(document);
  return (
    <Dialog.Root>
      <h1 className="min-w-0 max-w-72 truncate text-lg font-bold leading-tight max-md:text-base">
        <Dialog.Trigger className="max-w-full cursor-pointer truncate text-left hover:underline max-md:press">
          {document.job.name}
        </Dialog.Trigger>
      </h1>
      <Dialog.Portal>
        <Dialog.Overlay className="palette-ground" />
        <Dialog.Content className="palette-box max-h-[85dvh] overflow-auto" aria-describedby={undefined}>
          <div className="flex items-center justify-between">
            <Dialog.Title className="text-xl font-bold">{WORKSPACE_WORDS.theJob}</Dialog.Title>
            <Dialog.Close className="btn btn-ghost press px-2">
              <X size={20} aria-hidden />
              <span className="sr-only">{WORKSPACE_WORDS.close}</span>
            </Dialog.Close>
          </div>
          <div className="mt-2 space-y-3">
            <Fields />
            <p>{say(supplyWords(document.site.supply))}</p>
            {copy && <p className="caution">{say(copy)}</p>}
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Fields() {
  const editor = useEditor();
  const { job } = useJob().document;
  const change = (part: Partial<JobDocument["job"]>) =>
    editor.edit((document) => ({ ...document, job: { ...document.job, ...part } }), Object.keys(part).join());
  return (
    <>
      <TextField
        label={WORKSPACE_WORDS.nameOfTheJob}
        value={job.name}
        schema={jobNameSchema}
        onValue={(name) => change({ name })}
      />
      <TextField
        label={WORKSPACE_WORDS.place}
        value={job.place}
        schema={jobPlaceSchema}
        onValue={(place) => change({ place })}
      />
      <TextField
        label={WORKSPACE_WORDS.notes}
        value={job.notes}
        schema={jobNotesSchema}
        lines={NOTE_LINES}
        onValue={(notes) => change({ notes })}
      />
    </>
  );
}
