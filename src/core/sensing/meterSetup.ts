import type { Kit } from "@/core/kits/kitSchema";
import type { Meter, MeterInput, Site } from "@/core/site/planSchema";

export type KitInput = NonNullable<Kit["metering"]>["inputs"][number];

/**
 * One input of the plan with what its kit says of it; `kit` and `kitInput` are undefined where the plan names no kit.
 */
export interface InputSetup {
  readonly meter: Meter;
  readonly input: MeterInput;
  readonly kit: Kit | undefined;
  readonly kitInput: KitInput | undefined;
  /** The CT's own kit, where one is chosen. */
  readonly ctKit: Kit | undefined;
}

/** Which school an input follows in one respect, and whether that is the kit's own. */
export interface School<T> {
  readonly active: T;
  readonly kits: T | undefined;
  readonly isOverridden: boolean;
}

/** Every input of a site with its kits. */
export function inputSetups(site: Site, kits: readonly Kit[]): readonly InputSetup[] {
  const find = (id: string | undefined) => kits.find((kit) => kit.id === id);
  return site.meters.flatMap((meter) => {
    const kit = find(meter.kit);
    return meter.inputs.map((input) => ({
      meter,
      input,
      kit,
      kitInput: kit?.metering?.inputs.find((candidate) => candidate.n === input.n),
      ctKit: find(input.clamp?.kit),
    }));
  });
}

/** Which way the printed arrow points on this input: the kit's way, or overridden in the plan. */
export function arrowSchool({ input, kitInput }: InputSetup): School<MeterInput["arrow"]> {
  return school(input.arrow, kitInput?.arrow);
}

/** What this input calls positive: the kit's meaning, or overridden in the plan. */
export function positiveSchool({ input, kitInput }: InputSetup): School<MeterInput["positive"]> {
  return school(input.positive, kitInput?.positive);
}

function school<T>(active: T, kits: T | undefined): School<T> {
  return { active, kits, isOverridden: kits !== undefined && kits !== active };
}
