"use client";

import { useMemo, useState } from "react";
import { compareReadings, type ComparedReading } from "@/core/flows/compareReadings";
import { afterClampChange } from "@/core/flows/staleReadings";
import type { SiteState } from "@/core/flows/stateSchema";
import {
  changeClamp,
  clampOf,
  flipClamp,
  moveClamp,
  placeAsPlanned,
  placeClamp,
  placePhases,
  removeClamp,
  replugClamp,
  restoreClamps,
  steppedEntry,
  swapLeads,
  toggleSharedConductor,
  type InputRef,
  type Step,
} from "@/core/site/fitClamp";
import type { JobDocument } from "@/core/job/jobDocument";
import type { Ct, Site, WindowEntry } from "@/core/site/planSchema";
import { statePresets } from "@/core/flows/statePresets";
import { useEditor, useJob } from "@/ui/workspace/workspaceContext";

/** What is picked up to be put somewhere: a CT on the board, or an input that has no CT yet. */
export type Picked =
  | { readonly kind: "clip"; readonly ct: string; readonly windowAt: number }
  | { readonly kind: "input"; readonly meter: string; readonly input: number };

export interface PlaceDesk {
  readonly site: Site;
  readonly state: SiteState;
  readonly setState: (state: SiteState) => void;
  readonly readings: readonly ComparedReading[];
  readonly picked: Picked | undefined;
  readonly pick: (picked: Picked | undefined) => void;
  /** The CT that the keys move, from when it was picked up with one until it is put down. */
  readonly held: string | undefined;
  readonly hold: (ct: string, windowAt: number) => void;
  readonly putDown: () => void;
  /** Put what is held back where it was picked up, as it was. */
  readonly takeBack: () => void;
  /** The CT that was held last, and what became of it. */
  readonly settled: { readonly ct: string; readonly how: "down" | "back" } | undefined;
  /** Put what is picked, or what is dragged, round a conductor. */
  readonly putOn: (what: Picked, entry: WindowEntry) => void;
  /** Plug a CT into an input. */
  readonly plugInto: (what: Picked, to: InputRef) => void;
  /** Every CT that is missing, where the plan wants it. */
  readonly putAllAsPlanned: () => void;
  /** The CTs of an input and of those that go with it, round the conductors of one circuit. */
  readonly putPhases: (at: InputRef, run: string) => void;
  readonly step: (what: Picked, step: Step) => void;
  readonly turn: (ct: string) => void;
  readonly swap: (ct: string) => void;
  readonly share: (ct: string, entry: WindowEntry) => void;
  readonly change: (ct: string, change: Partial<Omit<Ct, "id">>, field: string) => void;
  readonly remove: (ct: string) => void;
}

/** Binds the CT edits of the core to the open job, with what is picked and the state that is looked at. */
export function usePlace(start: InputRef | undefined): PlaceDesk {
  const editor = useEditor();
  const job = useJob();
  const { site } = job.document;
  const [state, setState] = useState<SiteState>(
    () => (statePresets(site).find((preset) => preset.id === "sun") ?? statePresets(site)[0])?.state ?? { devices: [] },
  );
  const [picked, pick] = useState<Picked | undefined>(() => start && pickedAt(site, start));
  const readings = useMemo(() => compareReadings(site, state), [site, state]);
  const edit = (change: (site: Site) => Site, field?: string) =>
    editor.edit((document) => withSite(document, change(document.site)), field);

  const hand = useHand(site, edit, pick);

  const putOn = (what: Picked, entry: WindowEntry) => {
    if (what.kind === "clip") edit((before) => moveClamp(before, what.ct, what.windowAt, entry));
    else edit((before) => placeClamp(before, what, entry));
    if (what.kind === "input") {
      const placed = clampOf(editor.getSnapshot().document.site, what);
      if (placed) pick({ kind: "clip", ct: placed.id, windowAt: 0 });
    }
  };

  return {
    site,
    state,
    setState,
    readings,
    picked: stillThere(site, picked),
    pick,
    ...hand,
    putOn,
    plugInto: (what, to) => {
      if (what.kind === "clip") edit((before) => replugClamp(before, what.ct, to));
    },
    putAllAsPlanned: () => {
      pick(undefined);
      edit(placeAsPlanned);
    },
    putPhases: (at, run) => {
      pick(undefined);
      edit((before) => placePhases(before, at, run));
    },
    step: (what, step) => {
      if (what.kind !== "clip") return;
      const from = site.cts.find((ct) => ct.id === what.ct)?.around[what.windowAt];
      const to = from && steppedEntry(site, from, step);
      if (to) putOn(what, to);
    },
    turn: (ct) => edit((before) => flipClamp(before, ct)),
    swap: (ct) => edit((before) => swapLeads(before, ct)),
    share: (ct, entry) => edit((before) => toggleSharedConductor(before, ct, entry)),
    change: (ct, change, field) => edit((before) => changeClamp(before, ct, change), `${ct} ${field}`),
    remove: (ct) => {
      hand.putDown();
      edit((before) => removeClamp(before, ct));
    },
  };
}

/** A job with its site changed, and the CTs that are not as they were marked with the time of it. */
function withSite(document: JobDocument, site: Site): JobDocument {
  return site === document.site
    ? document
    : { ...document, ...afterClampChange(document, site, new Date().toISOString()) };
}

/** The CT that the keys move: picked up, put down, or put back where it was. */
function useHand(
  site: Site,
  edit: (change: (site: Site) => Site) => void,
  pick: PlaceDesk["pick"],
): Pick<PlaceDesk, "held" | "hold" | "putDown" | "takeBack" | "settled"> {
  const [held, setHeld] = useState<{ readonly ct: string; readonly earlier: readonly Ct[] } | undefined>();
  const [settled, setSettled] = useState<PlaceDesk["settled"]>();
  const letGo = (how: "down" | "back") => {
    if (held) setSettled({ ct: held.ct, how });
    setHeld(undefined);
    pick(undefined);
  };
  return {
    // Undo, or somebody else, may have taken it off meanwhile.
    held: held && site.cts.some(({ id }) => id === held.ct) ? held.ct : undefined,
    settled,
    hold: (ct, windowAt) => {
      pick({ kind: "clip", ct, windowAt });
      setHeld({ ct, earlier: site.cts });
    },
    putDown: () => letGo("down"),
    takeBack: () => {
      if (held) edit((before) => restoreClamps(before, held.earlier));
      letGo("back");
    },
  };
}

/** The CT of an input, or the input where it has none. */
function pickedAt(site: Site, at: InputRef): Picked {
  const ct = clampOf(site, at);
  return ct ? { kind: "clip", ct: ct.id, windowAt: 0 } : { kind: "input", meter: at.meter, input: at.input };
}

/** Undo can take away what is picked. */
function stillThere(site: Site, picked: Picked | undefined): Picked | undefined {
  if (picked?.kind === "clip" && !site.cts.some((ct) => ct.id === picked.ct)) return undefined;
  return picked;
}
