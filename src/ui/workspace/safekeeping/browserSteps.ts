import { z } from "zod";
import { storedJobSchema } from "@/core/job/storedJob";
import type { Steps, StepStore } from "@/ui/workspace/safekeeping/jobEditor";

const PREFIX = "gormit-steps:";
/** A tab's storage holds a few million characters for everything: the newest steps go first. */
const MOST_CHARACTERS = 1_500_000;

const stepsSchema = z.object({
  document: storedJobSchema,
  past: z.array(storedJobSchema),
  future: z.array(storedJobSchema),
});

/** The steps back and forth of a job in this tab: they outlive a reload, and go with the tab. */
export class BrowserSteps implements StepStore {
  private readonly key: string;

  constructor(jobId: string) {
    this.key = PREFIX + jobId;
  }

  take(): Steps | undefined {
    try {
      const text = sessionStorage.getItem(this.key);
      sessionStorage.removeItem(this.key);
      const read = text === null ? undefined : stepsSchema.safeParse(JSON.parse(text));
      return read?.success ? read.data : undefined;
    } catch {
      return undefined;
    }
  }

  put({ document, past, future }: Steps): void {
    try {
      if (past.length + future.length === 0) return sessionStorage.removeItem(this.key);
      const [now, ...steps] = [document, ...past.toReversed()].map((one) => JSON.stringify(one));
      const kept = within(steps, MOST_CHARACTERS - now!.length).toReversed();
      const redo = future.toReversed().map((one) => JSON.stringify(one));
      const left = MOST_CHARACTERS - now!.length - kept.join().length;
      const text = `{"document":${now!},"past":[${kept.join()}],"future":[${within(redo, left).toReversed().join()}]}`;
      sessionStorage.setItem(this.key, text);
    } catch {
      // A tab that keeps nothing has no steps after a reload; what was typed is saved all the same.
    }
  }
}

/** As many from the front as fit. */
function within(texts: readonly string[], mostCharacters: number): readonly string[] {
  let left = mostCharacters;
  const end = texts.findIndex((text) => (left -= text.length + 1) < 0);
  return end === -1 ? texts : texts.slice(0, end);
}
