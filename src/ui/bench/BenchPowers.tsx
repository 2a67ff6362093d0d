"use client";

import { useState } from "react";
import type { BenchStatus } from "@/core/bench/benchSchema";
import { flowWord } from "@/core/site/flowWords";
import type { SiteNode } from "@/core/site/planSchema";
import { powerText } from "@/core/units";
import type { BenchDesk } from "@/ui/bench/useBench";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { useJob } from "@/ui/workspace/workspaceContext";
import { BENCH_WORDS } from "@/ui/words/benchWords";

const USUAL_W = 5_000;
const STEP_W = 50;
const SUN: readonly SiteNode["kind"][] = ["pv-inverter", "generator"];
const BOTH_WAYS: readonly SiteNode["kind"][] = ["battery-inverter", "hybrid-inverter"];

/** Sun, loads and storage by slider; a size with its direction as a word. */
export function BenchPowers({ desk, bench }: { desk: BenchDesk; bench: BenchStatus }) {
  const { document } = useJob();
  const nodes = document.site.nodes.filter(({ kind }) => kind !== "grid" && kind !== "board");
  const powerOf = (node: string) => bench.devices.find((own) => own.node === node)?.powerW ?? 0;
  const set = (node: string, powerW: number) =>
    desk.change({
      state: {
        runs: "held",
        devices: nodes
          .map(({ id }) => ({ node: id, powerW: id === node ? powerW : powerOf(id), reactiveVar: 0 }))
          .filter((own) => own.powerW !== 0),
      },
    });
  return (
    <section aria-label={BENCH_WORDS.whatIsOn} className="panel space-y-2 p-4">
      <h3 className="text-lg font-bold">{BENCH_WORDS.sunLoadsAndStorage}</h3>
      {bench.runs === "day" && <p className="quiet text-sm">{BENCH_WORDS.aClearDayGoesByItselfASliderStops}</p>}
      {nodes.map((node) => (
        <PowerSlider
          key={node.id}
          node={node}
          powerW={powerOf(node.id)}
          onPower={(powerW) => void set(node.id, powerW)}
        />
      ))}
    </section>
  );
}

interface SliderProps {
  readonly node: SiteNode;
  readonly powerW: number;
  readonly onPower: (powerW: number) => void;
}

function PowerSlider({ node, powerW, onPower }: SliderProps) {
  const { document } = useJob();
  const say = useSay();
  const [held, setHeld] = useState<number | undefined>();
  const mostW = node.ratedW ?? USUAL_W;
  const sign = SUN.includes(node.kind) ? -1 : 1;
  const shownW = held ?? powerW;
  const release = () => {
    if (held !== undefined) onPower(held);
    setHeld(undefined);
  };
  return (
    <label className="grid grid-cols-[minmax(0,1fr)_auto] items-center gap-x-3 text-sm">
      <span className="font-semibold">{node.name}</span>
      <span className="reading text-right">
        {shownW === 0
          ? BENCH_WORDS.off
          : say(`${powerText(Math.abs(shownW))} ${flowWord(document.site, node.id, shownW)}`)}
      </span>
      <input
        type="range"
        className="col-span-2 h-11 w-full accent-primary"
        aria-label={BENCH_WORDS.powerOf(node.name)}
        min={BOTH_WAYS.includes(node.kind) ? -mostW : 0}
        max={mostW}
        step={STEP_W}
        value={sign * shownW}
        onChange={(event) => setHeld(sign * Number(event.target.value))}
        onPointerUp={release}
        onKeyUp={release}
        onBlur={release}
      />
    </label>
  );
}
