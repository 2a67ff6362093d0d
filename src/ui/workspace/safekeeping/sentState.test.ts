import { describe, expect, it } from "vitest";
import type { SaveStatus } from "@/ui/workspace/safekeeping/jobEditor";
import { sentState } from "@/ui/workspace/safekeeping/sentState";
import type { WaitingEntry } from "@/ui/workspace/visit/visitRecorder";

const log = (waiting: number, more: { isAway?: boolean; isKept?: boolean; refused?: string } = {}) => ({
  waiting: Array.from({ length: waiting }, (_, at): WaitingEntry => ({
    entry: {
      id: `00000000-0000-4000-8000-00000000000${at}`,
      at: "2026-11-26T08:00:00.000Z",
      person: "Robin",
      visit: "first",
      kind: "note",
      text: "x",
    },
    ...(more.refused !== undefined && { refused: more.refused }),
  })),
  isAway: more.isAway ?? false,
  isKept: more.isKept ?? true,
  broken: [],
});
const saved: SaveStatus = { kind: "saved" };

describe("sentState", () => {
  it("never says saved while an entry of the log waits", () => {
    expect(sentState(saved, log(0))).toEqual({ kind: "saved", isAway: false });
    expect(sentState(saved, log(2))).toEqual({ kind: "sending" });
    expect(sentState(saved, log(2, { isAway: true }))).toEqual({ kind: "waiting", count: 2, isKept: true });
  });

  it("counts the plan and the log together, and says so when this browser keeps nothing", () => {
    const away: SaveStatus = { kind: "waiting", isKept: true };
    expect(sentState(away, log(2, { isAway: true }))).toEqual({ kind: "waiting", count: 3, isKept: true });
    expect(sentState({ kind: "saving" }, log(2, { isAway: true }))).toMatchObject({ kind: "waiting", count: 3 });
    expect(sentState(away, log(0))).toEqual({ kind: "waiting", count: 1, isKept: true });
    expect(sentState(away, log(1, { isAway: true, isKept: false }))).toMatchObject({ isKept: false });
  });

  it("shows a conflict before a refusal, and a refusal before what only waits", () => {
    const refused = log(1, { refused: "text: too long", isAway: true });
    const theirs = { kind: "conflict" } as SaveStatus;
    expect(sentState(theirs, refused)).toEqual({ kind: "conflict" });
    expect(sentState(saved, refused)).toEqual({ kind: "refused", count: 1, why: "text: too long" });
    expect(sentState({ kind: "refused", message: "name: too long" }, refused)).toEqual({
      kind: "refused",
      count: 2,
      why: "name: too long",
    });
  });

  it("says that there is no connection even when nothing waits", () => {
    expect(sentState(saved, log(0, { isAway: true }))).toEqual({ kind: "saved", isAway: true });
  });
});
