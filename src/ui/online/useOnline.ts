"use client";

import { useMemo } from "react";
import { changedByVisit } from "@/core/chain/changedByVisit";
import { chainOf, worstFirst, type Chain } from "@/core/chain/chainOf";
import { devicesWithoutKit, seenDevices } from "@/core/chain/seenDevices";
import type { OnlineRecord, SeenOnline } from "@/core/online/onlineRecords";
import type { Observed } from "@/core/online/onlineSchema";
import { resolve } from "@/core/plan/resolve";
import { usePerson } from "@/ui/parts/browser/usePerson";
import { useNow } from "@/ui/visit/useNow";
import { useVisitWriter } from "@/ui/visit/useVisitWriter";
import { useEditor, useJob, useVisitWork } from "@/ui/workspace/workspaceContext";

const LOOK_EVERY_MS = 30_000;

/** The chains of the open job's devices, and what can be noted of each. */
export interface OnlineDesk {
  readonly chains: readonly Chain[];
  /** Names of devices whose way is not known, because nobody said which kit they are. */
  readonly kitless: readonly string[];
  /** Milliseconds since 1970; undefined until the page runs. */
  readonly nowMs: number | undefined;
  /** Who is at work, for the log; empty until somebody said. */
  readonly person: string;
  readonly see: (device: string, observed: readonly Observed[], byItself?: boolean) => void;
  readonly unsee: (device: string, seen: SeenOnline) => void;
  readonly set: (device: string, change: Partial<Omit<OnlineRecord, "id" | "observed">>) => void;
  readonly forget: (device: string) => void;
  /** A line in the log of the visit; nothing while nobody said who works. */
  readonly log: (text: string) => void;
}

/** Binds the ways online of the open job to the page. */
export function useOnline(): OnlineDesk {
  const editor = useEditor();
  const { document } = useJob();
  const nowMs = useNow(LOOK_EVERY_MS);
  const visit = useVisitWork();
  const { person } = usePerson();
  const writer = useVisitWriter(visit, person, document.visit.id);
  const { chains, kitless } = useMemo(() => {
    const plan = resolve(document);
    return {
      chains: worstFirst(
        seenDevices(plan).map((device) =>
          chainOf(device, plan, document.online, nowMs ?? 0, changedByVisit(document.visit)),
        ),
      ),
      kitless: devicesWithoutKit(plan).map(({ name }) => name),
    };
  }, [document, nowMs]);
  const change = (device: string, changed: (record: OnlineRecord) => OnlineRecord, field?: string) =>
    editor.edit((before) => {
      const known = before.online.find(({ id }) => id === device);
      const next = changed(known ?? { id: device, observed: [] });
      return {
        ...before,
        online: known ? before.online.map((own) => (own === known ? next : own)) : [...before.online, next],
      };
    }, field);
  return {
    chains,
    kitless,
    nowMs,
    person,
    see: (device, observed, byItself) => {
      const at = new Date().toISOString();
      const seen = observed.map((own) => ({ ...own, at, ...(byItself ? { byItself } : {}) }));
      change(device, (record) => ({ ...record, observed: [...without(record.observed, observed), ...seen] }));
    },
    unsee: (device, seen) =>
      change(device, (record) => ({ ...record, observed: record.observed.filter((own) => own !== seen) })),
    set: (device, more) => change(device, (record) => ({ ...record, ...more }), `online ${device}`),
    forget: (device) => change(device, ({ ownerSeesAt: _, ...record }) => ({ ...record, observed: [] })),
    log: (text) => person !== "" && writer.note(text),
  };
}

/** What is seen anew takes the place of what was seen before; two lamps of one device stand side by side. */
function without(before: readonly SeenOnline[], anew: readonly Observed[]): SeenOnline[] {
  const lampOf = (outcome: string | number) => String(outcome).split(" ")[0];
  return before.filter(
    (own) =>
      !anew.some(
        ({ check, outcome }) => check === own.check && (check !== "lamp" || lampOf(outcome) === lampOf(own.outcome)),
      ),
  );
}
