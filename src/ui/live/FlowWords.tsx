"use client";

import { loadPowerW } from "@/core/live/ownPower";
import type { LiveValue } from "@/core/live/liveSchema";
import { flowWord, readingTowardLoadW } from "@/core/site/flowWords";
import { useJob } from "@/ui/workspace/workspaceContext";

interface Props {
  readonly device: string;
  readonly meter: string | undefined;
  readonly value: Pick<LiveValue, "of" | "input" | "value">;
}

/** The way that a power goes, in a word, where the plan knows it. */
export function FlowWords({ device, meter, value: { of, input: n, value } }: Props) {
  const { document } = useJob();
  if (of !== "power") return null;
  const { site, kits } = document;
  if (n === undefined) {
    const node = site.nodes.find(({ id }) => id === device);
    const kind = kits.find(({ id }) => id === node?.kit)?.kind;
    return node && kind ? <span>{flowWord(site, node.id, loadPowerW(kind, value))}</span> : null;
  }
  const input = site.meters.find(({ id }) => id === meter)?.inputs.find((own) => own.n === n);
  const run = input?.measures[0]?.run;
  if (!input || run === undefined) return null;
  return <span>{flowWord(site, run, readingTowardLoadW(input.positive, value))}</span>;
}
