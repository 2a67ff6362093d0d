"use client";

import { busFaultText, probeText } from "@/core/links/bus/busFaultText";
import { busOfLink } from "@/core/links/bus/busOfLink";
import { can } from "@/core/links/bus/can";
import { canModel } from "@/core/links/bus/canModel";
import { canOfLink } from "@/core/links/bus/canOfLink";
import type { JobDocument } from "@/core/job/jobDocument";
import type { PlanLink } from "@/core/plan/resolvedPlan";
import {
  readMultimeter,
  type BusModel,
  type BusVerdict,
  type BusExplanation,
  type Shown,
} from "@/core/links/bus/multimeter";
import { rs485Model } from "@/core/links/bus/rs485Model";
import { threeDigits } from "@/core/units";
import { NumberField } from "@/ui/parts/form/NumberField";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import type { WireDesk } from "@/ui/wire/useWire";
import { WIRE_WORDS } from "@/ui/words/wireWords";

const LEAST_SHOWN = 0.02;
const MOST_SHOWN = 4;
const VERDICTS: Readonly<Record<BusVerdict["kind"], string>> = {
  "as-planned": WIRE_WORDS.asPlanned,
  fault: WIRE_WORDS.aFaultIsFound,
  ambiguous: WIRE_WORDS.notCertainYet,
  "not-explained": WIRE_WORDS.noTwoFaultsExplainThis,
};

interface Measured {
  readonly link: PlanLink;
  readonly kind: "rs485" | "can";
  readonly model: BusModel;
}

/** What a multimeter shows at a bus, what that means, and where to measure next. */
export function Multimeter({ wire }: { wire: WireDesk }) {
  const buses = wire.plan.links.flatMap((link) => measuredBus(link) ?? []);
  if (buses.length === 0) return <p className="mx-auto max-w-6xl">{WIRE_WORDS.noRs485OrCanLineYetTakeTheLinks}</p>;
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      {buses.map((bus) => (
        <BusMeasurement key={bus.link.id} wire={wire} bus={bus} />
      ))}
    </div>
  );
}

/** A planned bus as a multimeter meets it; undefined for other links. */
export function measuredBus(link: PlanLink): Measured | undefined {
  const bus = busOfLink(link);
  if (bus) return { link, kind: "rs485", model: rs485Model(bus) };
  const line = canOfLink(link);
  if (!line) return undefined;
  const devices = link.whole!.map(({ device, member }) => ({
    name: device.name,
    terminator: member.terminator ?? false,
  }));
  return {
    link,
    kind: "can",
    model: canModel({ devices, lengthM: line.lengthM, busLoad: can(line).busLoadPct / 100 }),
  };
}

function BusMeasurement({ wire, bus: { link, kind, model } }: { wire: WireDesk; bus: Measured }) {
  const { document } = wire;
  const readings = document.busReadings.filter((reading) => reading.link === link.id);
  const verdict = readMultimeter(model, readings);
  const likely = verdict.explanations.filter(({ probability }) => probability > LEAST_SHOWN).slice(0, MOST_SHOWN);
  return (
    <section aria-label={link.name} className="panel grid gap-4 p-3 lg:grid-cols-2">
      <div className="space-y-2">
        <h3 className="text-lg font-bold leading-tight">
          {link.name}{" "}
          <span className="quiet text-sm font-normal">{kind === "can" ? WIRE_WORDS.can : WIRE_WORDS.rs485}</span>
        </h3>
        <ProbeFields model={model} kind={kind} readings={readings} wire={wire} link={link} />
        <p className="caution">
          {WIRE_WORDS.resistanceWithEverySupplyOnTheBus(kind === "can" ? "" : ` ${WIRE_WORDS.andNobodyAsking}`)}
        </p>
      </div>
      <div role="status" className="space-y-2">
        {readings.length === 0 ? (
          <p>{WIRE_WORDS.typeWhatTheMeterShowsBegin}</p>
        ) : (
          <>
            <BusVerdictLines verdict={verdict} likely={likely} model={model} kind={kind} readings={readings} />
          </>
        )}
      </div>
    </section>
  );
}

function ProbeFields({
  model,
  kind,
  readings,
  wire,
  link,
}: {
  model: BusModel;
  kind: "rs485" | "can";
  readings: JobDocument["busReadings"];
  wire: WireDesk;
  link: PlanLink;
}) {
  const { measure } = wire;
  return (
    <div className="grid grid-cols-2 gap-2">
      {model.probes.map((probe) => {
        const unit = probe.what === "ohm" ? "Ω" : "mV";
        return (
          <NumberField
            key={`${probe.what} ${probe.where}`}
            label={probeText(model, kind, probe)}
            unit={unit}
            optional
            least={probe.what === "ohm" ? -0.001 : -100_000}
            most={probe.what === "ohm" ? 1e9 : 100_000}
            value={readings.find((reading) => reading.what === probe.what && reading.where === probe.where)?.value}
            hint={WIRE_WORDS.expected(shownText(model.expected([], probe)), unit)}
            onValue={(value) => measure(link.id, probe, value)}
          />
        );
      })}
    </div>
  );
}

function BusVerdictLines({
  verdict,
  likely,
  model,
  kind,
  readings,
}: {
  verdict: BusVerdict;
  likely: BusExplanation[];
  model: BusModel;
  kind: "rs485" | "can";
  readings: JobDocument["busReadings"];
}) {
  const say = useSay();
  return (
    <>
      <p className="text-lg font-bold">{VERDICTS[verdict.kind]}</p>
      <ol className="space-y-1">
        {likely.map((explanation, at) => (
          <LikelyFault key={at} at={at} explanation={explanation} model={model} kind={kind} readings={readings} />
        ))}
      </ol>
      {verdict.next && (
        <p className="text-sm">
          <b>{WIRE_WORDS.measureNext}</b> {probeText(model, kind, verdict.next.probe)}.{" "}
          {say(
            likely
              .map(
                ({ faults }, at) =>
                  `${at + 1}: ${shownText(model.expected(faults, verdict.next!.probe))} ` +
                  `${verdict.next!.probe.what === "ohm" ? "Ω" : "mV"}`,
              )
              .join("; "),
          )}
          .
        </p>
      )}
    </>
  );
}

function LikelyFault({
  at,
  explanation,
  model,
  kind,
  readings,
}: {
  at: number;
  explanation: BusExplanation;
  model: BusModel;
  kind: "rs485" | "can";
  readings: JobDocument["busReadings"];
}) {
  return (
    <li className="rounded border border-base-300 bg-base-100 p-2 text-sm">
      <span className="reading mr-2 font-bold">{at + 1}</span>
      <span className="reading mr-2">{Math.round(100 * explanation.probability)} %</span>
      {explanation.faults.length === 0
        ? WIRE_WORDS.asPlannedTitle
        : explanation.faults.map((fault, which) => {
            const words = busFaultText(model, kind, fault, explanation.places[which]);
            return (
              <span key={words.text}>
                {words.text} <b>{words.cure}. </b>
              </span>
            );
          })}
      <span className="quiet block">
        {WIRE_WORDS.wouldShow(
          readings
            .map(
              (reading, which) => `${shownText(explanation.expected[which]!)} ${reading.what === "ohm" ? "Ω" : "mV"}`,
            )
            .join(", "),
        )}
      </span>
    </li>
  );
}

/** What a probe shows; what may be anything between two values is both of them. */
function shownText({ least, most }: Shown): string {
  const [from, to] = [threeDigits(least), threeDigits(most)];
  return from === to ? String(from) : WIRE_WORDS.to2(from, to);
}
