"use client";

import { useMemo, useState } from "react";
import { compareReadings, type ComparedReading } from "@/core/flows/compareReadings";
import type { SiteState } from "@/core/flows/stateSchema";
import {
  changeClamp,
  clampOf,
  flipClamp,
  moveClamp,
  placeClamp,
  removeClamp,
  replugClamp,
  steppedEntry,
  swapLeads,
  toggleSharedConductor,
  type InputRef,
  type Step,
} from "@/core/site/fitClamp";
import type { Ct, Site, WindowEntry } from "@/core/site/planSchema";
import { statePresets } from "@/core/flows/statePresets";
import { useEditor, useJob } from "@/ui/workspace/workspaceContext";

/** What is picked up to be put somewhere: a clip on the board, or an input that has no clamp yet. */
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
  /** Put what is picked, or what is dragged, round a conductor. */
  readonly putOn: (what: Picked, entry: WindowEntry) => void;
  /** Plug a clip into an input. */
  readonly plugInto: (what: Picked, to: InputRef) => void;
  readonly step: (what: Picked, step: Step) => void;
  readonly turn: (ct: string) => void;
  readonly swap: (ct: string) => void;
  readonly share: (ct: string, entry: WindowEntry) => void;
  readonly change: (ct: string, change: Partial<Omit<Ct, "id">>, field: string) => void;
  readonly remove: (ct: string) => void;
}

/** Binds the clamp edits of the core to the open job, with what is picked and the state that is looked at. */
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
    editor.edit((document) => {
      const next = change(document.site);
      return next === document.site ? document : { ...document, site: next };
    }, field);

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
    putOn,
    plugInto: (what, to) => {
      if (what.kind === "clip") edit((before) => replugClamp(before, what.ct, to));
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
      pick(undefined);
      edit((before) => removeClamp(before, ct));
    },
  };
}

/** The clip of an input, or the input where it has none. */
function pickedAt(site: Site, at: InputRef): Picked {
  const ct = clampOf(site, at);
  return ct ? { kind: "clip", ct: ct.id, windowAt: 0 } : { kind: "input", meter: at.meter, input: at.input };
}

/** Undo can take away what is picked. */
function stillThere(site: Site, picked: Picked | undefined): Picked | undefined {
  if (picked?.kind === "clip" && !site.cts.some((ct) => ct.id === picked.ct)) return undefined;
  return picked;
}
