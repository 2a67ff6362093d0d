"use client";

import { Wrench } from "lucide-react";
import { beginService, WRONGS, type Wrong } from "@/core/handover/service/wrongs";
import { goToStage } from "@/ui/workspace/frame/stageMoves";
import { useEditor, useJob } from "@/ui/workspace/workspaceContext";
import { HANDOVER_WORDS } from "@/ui/words/handoverWords";

/** Back at a site: what is wrong begins the visit for just that, at the place where it begins. */
export function ServicePart({ isKept }: { isKept: boolean }) {
  const { id } = useJob();
  const editor = useEditor();
  const begin = (wrong: Wrong) => {
    const begun = { id: crypto.randomUUID(), at: new Date().toISOString(), isKept };
    editor.edit((before) => beginService(before, wrong, begun));
    goToStage(`/jobs/${id}/${wrong.stage}`);
  };
  return (
    <section aria-label={HANDOVER_WORDS.backAtThisSite} className="panel space-y-2 p-3">
      <h3 className="text-lg font-bold">{HANDOVER_WORDS.backAtThisSiteWhatIsWrong}</h3>
      <p className="text-sm">
        {HANDOVER_WORDS.beginsAVisitForJustThatEverything(
          isKept ? HANDOVER_WORDS.andWhatWasReadStandsInItsHandOver : HANDOVER_WORDS.handOverFirstSoThatWhatWasRead,
        )}
      </p>
      <div className="grid gap-2 sm:grid-cols-2">
        {WRONGS.map((wrong) => (
          <button
            key={wrong.id}
            type="button"
            className="btn press justify-start text-left"
            onClick={() => begin(wrong)}
          >
            <Wrench size={18} aria-hidden />
            {wrong.name}
          </button>
        ))}
      </div>
    </section>
  );
}
