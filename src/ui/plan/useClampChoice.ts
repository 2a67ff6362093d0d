"use client";

import { changeInput } from "@/core/edits/editPlan";
import type { Kit } from "@/core/kits/kitSchema";
import type { PlanInput } from "@/core/plan/resolvedPlan";
import { advisedPrimaryA, usablePrimariesA } from "@/core/sensing/advisedPrimary";
import { isCurrentOutput } from "@/core/sensing/ctBurden";
import type { PlannedClamp as Clamp } from "@/core/site/planSchema";
import { withoutEmpty } from "@/core/withoutEmpty";
import type { PlanDesk } from "@/ui/plan/usePlan";

type InputChange = Parameters<typeof changeInput>[2];

export interface ClampDesk {
  readonly setup: PlanInput;
  readonly clamp: Clamp;
  /** Kits of CTs with the secondary that the input takes. */
  readonly fits: readonly Kit[];
  readonly primariesA: readonly number[];
  readonly advisedA: number | undefined;
  /** What is printed on the CT: the input's primary times the turns. */
  readonly ctA: number;
  readonly change: (part: InputChange, field?: string) => void;
  readonly changeClamp: (part: Partial<Clamp>, field?: string) => void;
  readonly chooseKit: (id: string) => void;
}

/** Binds the CT of an input to the page: what could be chosen, and what a choice changes. */
export function useClampChoice({ site, kits, edit, kitOf }: PlanDesk, setup: PlanInput): ClampDesk {
  const { meter, input, kit, ctKit } = setup;
  const clamp = input.clamp ?? {};
  const ctA = input.primaryA * (clamp.turns ?? 1);
  const change = (part: InputChange, field?: string) =>
    edit(changeInput(meter.id, input.n, part), field && `${meter.id} ${input.n} ${field}`);
  const usableA = ctKit?.clamp?.primariesA ?? usablePrimariesA(input, kit, undefined);
  return {
    setup,
    clamp,
    fits: kits.filter(
      (candidate) =>
        candidate.clamp &&
        isCurrentOutput(candidate.clamp.secondary) === isCurrentOutput(input.secondary) &&
        candidate.clamp.secondary.value === input.secondary.value,
    ),
    primariesA: [...new Set([...usableA, ctA])].toSorted((a, b) => a - b),
    advisedA: advisedPrimaryA(site, input, kit, ctKit),
    ctA,
    change,
    changeClamp: (part, field) => change({ clamp: withoutEmpty({ ...clamp, ...part }) }, field),
    chooseKit: (id) => {
      const chosen = kitOf(id);
      const next = clampOfKit(clamp, chosen);
      const planned = { ...input, builtIn: undefined, clamp: next };
      const primaryA = advisedPrimaryA(site, planned, kit, chosen) ?? input.primaryA;
      edit(changeInput(meter.id, input.n, { clamp: next, builtIn: undefined, primaryA }, chosen));
    },
  };
}

/** The CT with the values of another kit; a lead that was cut to length stays. */
function clampOfKit(clamp: Clamp, chosen: Kit | undefined): Clamp {
  const data = chosen?.clamp;
  return withoutEmpty({
    ...clamp,
    kit: chosen?.id,
    class: data?.class,
    windowMm: data?.windowMm,
    ratedVa: data?.ratedVa,
    leadM: clamp.leadM ?? data?.leadM,
  });
}
