import type { ReadTrouble } from "@/core/live/readTrouble";
import type { Register } from "@/core/kits/registerSchema";

/** What came back of one question. */
export type ReadOutcome =
  | { readonly kind: "words"; readonly words: readonly number[]; readonly tookMs: number }
  | { readonly kind: "trouble"; readonly trouble: ReadTrouble };

/** An open line: one question at a time. */
export interface OpenLine {
  readonly read: (
    unit: number,
    block: { readonly table: Register["table"]; readonly address: number; readonly count: number },
    timeoutMs: number,
  ) => Promise<ReadOutcome>;
  /** Write the registers of one setting. Undefined where it was taken. */
  readonly write: (
    unit: number,
    setting: { readonly address: number; readonly words: readonly number[] },
    timeoutMs: number,
  ) => Promise<ReadTrouble | undefined>;
  readonly isOpen: () => boolean;
  readonly close: () => Promise<void>;
}
