import type { SaveStatus } from "@/ui/workspace/safekeeping/jobEditor";
import type { VisitSnapshot } from "@/ui/workspace/visit/visitRecorder";
import { WORKSPACE_WORDS } from "@/ui/words/workspaceWords";

/** Whether everything of a job is where it belongs: the plan and the log in one, the worst of both. */
export type SentState =
  | { readonly kind: "saved"; readonly isAway: boolean }
  | { readonly kind: "sending" }
  /** The server cannot be reached; `count` things wait, and go by themselves when it can. */
  | { readonly kind: "waiting"; readonly count: number; readonly isKept: boolean }
  | { readonly kind: "conflict" }
  /** The server will not have `count` things; the first of them says why. */
  | { readonly kind: "refused"; readonly count: number; readonly why: string };

/**
 * One state of plan and log.
 *
 * For example: A plan that is saved with two entries of the log on a phone without a signal: waiting, 2, kept.
 */
export function sentState(
  status: SaveStatus,
  log: Pick<VisitSnapshot, "waiting" | "isAway" | "isKept" | "broken">,
): SentState {
  if (status.kind === "conflict") return { kind: "conflict" };
  const refused = log.waiting.flatMap(({ refused: why }) => (why === undefined ? [] : [why]));
  const all = [
    ...(status.kind === "refused" ? [status.message] : []),
    ...refused,
    ...log.broken.map(() => WORKSPACE_WORDS.aKeptEntryCannotBeRead),
  ];
  if (all.length > 0) return { kind: "refused", count: all.length, why: all[0]! };
  const onItsWay = log.waiting.length;
  const isPlanWaiting = status.kind === "waiting";
  if (isPlanWaiting || (onItsWay > 0 && log.isAway))
    return {
      kind: "waiting",
      count: onItsWay + (status.kind === "saved" ? 0 : 1),
      isKept: (status.kind !== "waiting" || status.isKept) && log.isKept,
    };
  if (status.kind === "saving" || onItsWay > 0) return { kind: "sending" };
  return { kind: "saved", isAway: log.isAway };
}
