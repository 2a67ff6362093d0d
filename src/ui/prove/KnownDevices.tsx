"use client";

import { X } from "lucide-react";
import type { KnownDevice, TestStep } from "@/core/flows/testSheetSchema";
import type { SiteNode } from "@/core/site/planSchema";
import { nodeName } from "@/core/site/tree";
import { PowerField } from "@/ui/parts/form/PowerField";
import type { ProveDesk } from "@/ui/prove/useProve";

const USUAL_TOLERANCE = 0.05;

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
      <p className="quiet leading-snug">
        Consuming and charging positive, generating and discharging negative. The tolerance is one standard deviation.
      </p>
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
      <span>
        <PowerField
          label={`${nodeName(site, device.node)}, power`}
          powerW={device.powerW}
          onPower={(powerW) => put(index, { powerW: powerW ?? 0 }, "power")}
        />
      </span>
      <span>
        <PowerField
          label={`${nodeName(site, device.node)}, tolerance`}
          powerW={device.toleranceW}
          onPower={(toleranceW) => put(index, { toleranceW: toleranceW ?? 0 }, "tolerance")}
          refuse={(toleranceW) => (toleranceW < 0 ? "a tolerance is not negative" : undefined)}
        />
      </span>
      <button
        type="button"
        className="btn btn-ghost press px-2"
        onClick={() => prove.change(at, { devices: step.devices.toSpliced(index, 1) })}
      >
        <X size={18} aria-hidden />
        <span className="sr-only">Take {nodeName(site, device.node)} out of the step</span>
      </button>
    </div>
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
      aria-label="Add a known device"
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
      <option value="">Add a device whose power is known …</option>
      {free.map((node) => (
        <option key={node.id} value={node.id}>
          {node.name}
        </option>
      ))}
    </select>
  );
}
