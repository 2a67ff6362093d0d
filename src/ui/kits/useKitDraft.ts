"use client";

import { useMemo, useState } from "react";
import { z } from "zod";
import { browserSetting, useBrowserSetting } from "@/ui/parts/browser/browserSetting";

const DRAFT_PREFIX = "gormit-kit-draft:";

/** What was typed, and from which revision of the kit it was made; the first version kept the text alone. */
const draftSchema = z.union([
  z.object({ text: z.string(), revision: z.int().optional() }),
  z.string().transform((text) => ({ text, revision: undefined })),
]);

export interface KitDraft {
  readonly text: string;
  /**
   * The revision that was typed on top of: it is saved as that, and somebody else's newer one is not written over.
   */
  readonly madeFrom: number;
  readonly type: (text: string) => void;
  readonly forget: () => void;
}

/** A kit's text as it is typed, kept in this browser until it is saved or let go. */
export function useKitDraft(kitId: string, initial: string, revision: number): KitDraft {
  const key = DRAFT_PREFIX + kitId;
  const setting = useMemo(() => browserSetting(key, draftSchema.optional(), () => undefined), [key]);
  const kept = useBrowserSetting(setting, undefined);
  const [typed, setTyped] = useState<string | undefined>();
  const madeFrom = kept?.revision ?? revision;
  return {
    text: typed ?? kept?.text ?? initial,
    madeFrom,
    type: (text) => {
      setTyped(text);
      setting.choose({ text, revision: madeFrom });
    },
    forget: () => {
      setting.choose(undefined);
      setTyped(undefined);
    },
  };
}
