import type { KnownDevice } from "@/core/flows/testSheetSchema";

/** A device whose power is another in the next step, W. */
export interface Switching {
  readonly node: string;
  readonly fromW: number;
  readonly toW: number;
}

/**
 * What is to be switched between two steps: what is on in one and off, or with another power, in the other.
 *
 * For example: from nothing to a kettle of 2000 W: [{ node: "kettle", fromW: 0, toW: 2000 }].
 */
export function switchings(before: readonly KnownDevice[], after: readonly KnownDevice[]): readonly Switching[] {
  const powerIn = (devices: readonly KnownDevice[], node: string) => {
    const own = devices.find((device) => device.node === node);
    if (!own) return 0;
    const phases = Object.values(own.perPhase ?? {});
    return phases.length > 0 ? phases.reduce((sum, { powerW }) => sum + powerW, 0) : own.powerW;
  };
  return [...new Set([...before, ...after].map(({ node }) => node))]
    .map((node) => ({ node, fromW: powerIn(before, node), toW: powerIn(after, node) }))
    .filter(({ fromW, toW }) => fromW !== toW);
}
