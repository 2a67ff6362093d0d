"use client";

import { X } from "lucide-react";
import { useState } from "react";
import type { KnownDevice, TestStep } from "@/core/flows/testSheetSchema";
import { flowWord } from "@/core/site/flowWords";
import type { Site, SiteNode } from "@/core/site/planSchema";
import { nodeName } from "@/core/site/tree";
import { PowerField } from "@/ui/parts/form/PowerField";
import type { ProveDesk } from "@/ui/prove/useProve";
import { PROVE_WORDS } from "@/ui/words/proveWords";

const USUAL_TOLERANCE = 0.05;
/** Enough to have a direction, W. */
const A_FLOW_W = 1000;

/** The devices whose power is known in a step, each with its power and how well it is known. */
export function KnownDevices({ prove, step, at }: { prove: ProveDesk; step: TestStep; at: number }) {
  const { site } = prove;
  const known = new Set(step.devices.map((device) => device.node));
  const background = new Set(prove.background.map((load) => load.node));
  const free = site.nodes.filter(
    (node) => node.kind !== "grid" && node.kind !== "board" && !known.has(node.id) && !background.has(node.id),
  );
  const put = (index: number, change: Partial<KnownDevice>, field: string) => {
    const device = step.devices[index];
    if (device)
      prove.change(
        at,
        { devices: step.devices.with(index, { ...device, ...change }) },
        `device ${at} ${device.node} ${field}`,
      );
  };
  return (
    <div className="space-y-2 rounded border border-base-300 p-2 text-sm">
      <p className="quiet leading-snug">{PROVE_WORDS.theToleranceIsOneStandardDeviation}</p>
      {step.devices.map((device, index) => (
        <KnownDeviceRow key={device.node} device={device} prove={prove} put={put} index={index} at={at} step={step} />
      ))}
      {free.length > 0 && <AddKnownDevice free={free} prove={prove} at={at} step={step} />}
    </div>
  );
}

function KnownDeviceRow({
  device,
  prove,
  put,
  index,
  at,
  step,
}: {
  device: KnownDevice;
  prove: ProveDesk;
  put: (index: number, change: Partial<KnownDevice>, field: string) => void;
  index: number;
  at: number;
  step: TestStep;
}) {
  const { site } = prove;
  return (
    <div className="grid grid-cols-[1fr_1fr_44px] items-start gap-1">
      <span className="col-span-3 font-semibold">{nodeName(site, device.node)}</span>
      <DirectedPower site={site} device={device} onPower={(powerW) => put(index, { powerW }, "power")} />
      <span>
        <PowerField
          label={PROVE_WORDS.tolerance(nodeName(site, device.node))}
          powerW={device.toleranceW}
          onPower={(toleranceW) => put(index, { toleranceW: toleranceW ?? 0 }, "tolerance")}
          refuse={(toleranceW) => (toleranceW < 0 ? PROVE_WORDS.aToleranceIsNotNegative : undefined)}
        />
      </span>
      <button
        type="button"
        className="btn btn-ghost press px-2"
        onClick={() => prove.change(at, { devices: step.devices.toSpliced(index, 1) })}
      >
        <X size={18} aria-hidden />
        <span className="sr-only">{PROVE_WORDS.takeOutOfTheStep(nodeName(site, device.node))}</span>
      </button>
    </div>
  );
}

/** How much, and which way in a word: nobody types a sign whose meaning they would have to look up. */
function DirectedPower({
  site,
  device: { node, powerW },
  onPower,
}: {
  site: Site;
  device: KnownDevice;
  onPower: (powerW: number) => void;
}) {
  const usual = site.nodes.find(({ id }) => id === node)?.kind === "pv-inverter" ? -1 : 1;
  const [chosen, setChosen] = useState<number | undefined>();
  const sign = powerW === 0 ? (chosen ?? usual) : Math.sign(powerW);
  const name = nodeName(site, node);
  return (
    <span className="block space-y-1">
      <PowerField
        label={PROVE_WORDS.power(name)}
        powerW={Math.abs(powerW)}
        refuse={(watts) => (watts < 0 ? PROVE_WORDS.typeHowMuchAndChooseTheDirection : undefined)}
        onPower={(watts) => onPower(watts ? sign * watts : 0)}
      />
      <select
        className="field"
        aria-label={PROVE_WORDS.direction(name)}
        value={sign}
        onChange={(event) => {
          const next = Number(event.target.value);
          setChosen(next);
          if (powerW !== 0) onPower(next * Math.abs(powerW));
        }}
      >
        {[1, -1].map((way) => (
          <option key={way} value={way}>
            {flowWord(site, node, way * A_FLOW_W)}
          </option>
        ))}
      </select>
    </span>
  );
}

function AddKnownDevice({
  free,
  prove,
  at,
  step,
}: {
  free: readonly SiteNode[];
  prove: ProveDesk;
  at: number;
  step: TestStep;
}) {
  return (
    <select
      aria-label={PROVE_WORDS.addAKnownDevice}
      className="field"
      value=""
      onChange={(event) => {
        const node = free.find((candidate) => candidate.id === event.target.value);
        if (!node) return;
        const powerW = node.kind === "test-load" ? (node.ratedW ?? 2000) : 0;
        prove.change(at, {
          devices: [
            ...step.devices,
            { node: node.id, powerW, reactiveVar: 0, toleranceW: Math.abs(powerW) * USUAL_TOLERANCE },
          ],
        });
      }}
    >
      <option value="">{PROVE_WORDS.addADeviceWhosePowerIsKnown}</option>
      {free.map((node) => (
        <option key={node.id} value={node.id}>
          {node.name}
        </option>
      ))}
    </select>
  );
}
