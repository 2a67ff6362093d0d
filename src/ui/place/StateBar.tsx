"use client";

import { SlidersHorizontal } from "lucide-react";
import { useState } from "react";
import { statePresets, powerRangeW, type StatePreset } from "@/core/flows/statePresets";
import { powerText } from "@/core/units";
import { flowWord } from "@/core/site/flowWords";
import type { SiteNode } from "@/core/site/planSchema";
import { ZoomButtons } from "@/ui/board/ZoomButtons";
import { FlowArrow } from "@/ui/parts/show/FlowValue";
import { Say } from "@/ui/parts/show/Say";
import type { PlaceDesk } from "@/ui/place/usePlace";
import { PLACE_WORDS } from "@/ui/words/placeWords";

const SLIDER_STEP_W = 50;

interface Props {
  readonly place: PlaceDesk;
  readonly zoomBy: (factor: number) => void;
  readonly fit: () => void;
  readonly isZoomable: boolean;
}

/** What is on: presets, and a slider for every device. Everything on the board follows while a slider moves. */
export function StateBar({ place, zoomBy, fit, isZoomable }: Props) {
  const [open, setOpen] = useState(false);
  const { site, state } = place;
  const presets = statePresets(site);
  const shown = JSON.stringify(state);
  return (
    <section aria-label={PLACE_WORDS.whatIsOn} className="border-b border-base-300 bg-base-200">
      <div className="flex items-center">
        <div className="flex min-w-0 flex-1 items-center gap-1.5 px-3 py-1.5 md:overflow-x-auto">
          <button
            type="button"
            className="btn btn-sm press flex-none"
            aria-expanded={open}
            onClick={() => setOpen(!open)}
          >
            <SlidersHorizontal size={18} aria-hidden />
            {PLACE_WORDS.devices}
          </button>
          <Presets presets={presets} shown={shown} place={place} />
        </div>
        {isZoomable && (
          <div className="flex flex-none border-l border-base-300 px-1">
            <ZoomButtons zoomBy={zoomBy} fit={fit} />
          </div>
        )}
      </div>
      {open && (
        <div className="grid max-h-60 gap-x-6 gap-y-1 overflow-auto px-4 pb-3 sm:grid-cols-2 lg:grid-cols-3">
          {site.nodes
            .filter((node) => node.kind !== "grid" && node.kind !== "board")
            .map((node) => {
              const powerW = state.devices.find((device) => device.node === node.id)?.powerW ?? 0;
              const range = powerRangeW(node);
              return <DeviceSlider key={node.id} node={node} powerW={powerW} place={place} range={range} />;
            })}
        </div>
      )}
    </section>
  );
}

function Presets({ presets, shown, place }: { presets: readonly StatePreset[]; shown: string; place: PlaceDesk }) {
  const { setState } = place;
  // Two of them may be one and the same state: the first is the one that is shown.
  const on = presets.find(({ state }) => JSON.stringify(state) === shown)?.id;
  return (
    <>
      {/* Eight of them side by side are wider than a phone. */}
      <select
        aria-label={PLACE_WORDS.whatIsOn}
        className="field min-w-0 md:hidden"
        value={on ?? ""}
        onChange={({ target: { value } }) => {
          const chosen = presets.find(({ id }) => id === value);
          if (chosen) setState(chosen.state);
        }}
      >
        {on === undefined && <option value="">{PLACE_WORDS.asSetUnderDevices}</option>}
        {presets.map(({ id, label }) => (
          <option key={id} value={id}>
            {label}
          </option>
        ))}
      </select>
      {presets.map((preset) => (
        <button
          key={preset.id}
          type="button"
          aria-pressed={preset.id === on}
          className={`btn btn-sm press flex-none max-md:hidden ${preset.id === on ? "btn-neutral" : "font-normal"}`}
          onClick={() => setState(preset.state)}
        >
          {preset.label}
        </button>
      ))}
    </>
  );
}

function DeviceSlider({
  node,
  powerW,
  place,
  range,
}: {
  node: SiteNode;
  powerW: number;
  place: PlaceDesk;
  range: { readonly min: number; readonly max: number };
}) {
  const { site, setState, state } = place;
  return (
    <label className="block">
      <span className="flex items-center justify-between gap-2">
        <span className="truncate font-semibold">{node.name}</span>
        <span className="flex items-center gap-1 whitespace-nowrap text-sm">
          <FlowArrow towardLoadW={powerW} size={15} />
          <span className="reading">
            <Say>{powerText(Math.abs(powerW))}</Say>
          </span>{" "}
          {flowWord(site, node.id, powerW)}
        </span>
      </span>
      <input
        type="range"
        aria-label={node.name}
        className="range range-sm my-2 w-full"
        min={range.min}
        max={range.max}
        step={SLIDER_STEP_W}
        value={powerW}
        aria-valuetext={`${powerText(Math.abs(powerW))} ${flowWord(site, node.id, powerW)}`}
        onChange={(event) => setState(withPower(state, node.id, Number(event.target.value)))}
      />
    </label>
  );
}

function withPower(state: PlaceDesk["state"], node: string, powerW: number): PlaceDesk["state"] {
  const others = state.devices.filter((device) => device.node !== node);
  return { devices: [...others, { node, powerW, reactiveVar: 0 }] };
}
