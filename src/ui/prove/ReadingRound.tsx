"use client";

import { Timer } from "lucide-react";
import {
  asksSunAfter,
  readingSpan,
  readingTurns,
  shownDevices,
  sunDevices,
  type ReadingTurn,
} from "@/core/flows/moments";
import type { KnownDevice, TestStep } from "@/core/flows/testSheetSchema";
import { flowWord } from "@/core/site/flowWords";
import { inputTag } from "@/core/site/inputTag";
import type { Site } from "@/core/site/planSchema";
import { nodeName } from "@/core/site/tree";
import { shortTimeText } from "@/core/units";
import { PowerField } from "@/ui/parts/form/PowerField";
import { Say } from "@/ui/parts/show/Say";
import type { ProveDesk } from "@/ui/prove/useProve";
import { PROVE_WORDS } from "@/ui/words/proveWords";

interface Props {
  readonly prove: ProveDesk;
  readonly step: TestStep;
  readonly at: number;
}

/** In which order the displays of a step are read, how long it took, and the sun once more where it may differ. */
export function ReadingRound({ prove, step, at }: Props) {
  const { site } = prove;
  const turns = readingTurns(site, step);
  const span = readingSpan(site, step);
  const isAsked = asksSunAfter(site, step);
  return (
    <>
      {turns.some(({ kind }) => kind === "sun") && (
        <p className="text-sm leading-snug">
          <span className="quiet">{PROVE_WORDS.readInThisOrder} </span>
          {turns.map((turn) => turnText(site, turn)).join(" · ")}
        </p>
      )}
      {shownDevices(site, step).map((device) => (
        <OwnDisplay key={device.node} device={device} prove={prove} step={step} at={at} />
      ))}
      {span && (
        <p className={`flex items-start gap-1 text-sm leading-snug ${span.isLong ? "font-semibold text-warning" : ""}`}>
          <Timer size={15} className="mt-0.5 shrink-0" aria-hidden />
          <span>
            <Say>{PROVE_WORDS.readWithin(shortTimeText(span.seconds))}</Say>
            {span.isLong && PROVE_WORDS.theSunMayHaveChangedReadItAgain}
          </span>
        </p>
      )}
      {isAsked &&
        sunDevices(site, step).map(({ node, afterW }) => (
          <label key={node} className="block text-sm">
            <span className="quiet">{PROVE_WORDS.afterTheLastReadingGenerating(nodeName(site, node))}</span>
            <PowerField
              label={PROVE_WORDS.afterTheLastReadingOfStep(nodeName(site, node), at + 1)}
              powerW={afterW === undefined ? undefined : -afterW}
              refuse={(watts) => (watts < 0 ? PROVE_WORDS.typeWhatItGeneratesWithoutASign : undefined)}
              onPower={(watts) => prove.readAfter(at, node, watts === undefined ? undefined : -watts)}
            />
          </label>
        ))}
    </>
  );
}

/** What a device says of itself, with its direction as a word; the plan's guess stands there until it is read. */
function OwnDisplay({ device: { node, powerW }, prove, step, at }: Props & { readonly device: KnownDevice }) {
  const { site } = prove;
  const words = PROVE_WORDS.shows(nodeName(site, node), flowWord(site, node, powerW));
  return (
    <label className="block text-sm">
      <span className="quiet mb-1 block">{words}</span>
      <PowerField
        label={PROVE_WORDS.step(at + 1, words)}
        powerW={Math.abs(powerW)}
        refuse={(watts) => (watts <= 0 ? PROVE_WORDS.typeHowMuchItShowsWithoutASign : undefined)}
        onPower={(watts) =>
          watts &&
          prove.change(
            at,
            {
              devices: step.devices.map((own) =>
                own.node === node ? { ...own, powerW: Math.sign(powerW) * watts } : own,
              ),
            },
            `device ${at} ${node} power`,
          )
        }
      />
    </label>
  );
}

function turnText(site: Site, turn: ReadingTurn): string {
  if (turn.kind === "sun") return `${nodeName(site, turn.node)}${turn.when === "after" ? ` ${PROVE_WORDS.again}` : ""}`;
  const meter = site.meters.find(({ id }) => id === turn.meter)!;
  return meter.inputs.map(({ n }) => inputTag(site, meter.id, n)).join(" ");
}
