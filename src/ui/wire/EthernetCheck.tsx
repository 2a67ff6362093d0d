"use client";

import { useState } from "react";
import {
  ethernet,
  ethernetRequestSchema,
  T568B,
  type EthernetLead,
  type EthernetVerdict,
} from "@/core/links/network/ethernet";
import { leadForPorts, type LeadForPorts } from "@/core/links/network/leadForPorts";
import { isWhole } from "@/core/plan/linkEnds";
import { SIGNAL_WORDS } from "@/core/links/wiring/wiringSchedule";
import type { WholeEnd, PlanLink } from "@/core/plan/resolvedPlan";
import { SelectField } from "@/ui/parts/form/SelectField";
import { LeadDrawing } from "@/ui/wire/LeadDrawing";
import type { WireDesk } from "@/ui/wire/useWire";

const CHOICES = [...T568B, "open"] as const;
const VERDICTS: Readonly<Record<EthernetVerdict["verdict"], string>> = {
  straight: "Straight: pin to pin, pairs whole.",
  crossed: "Crossed: one end T568A, the other T568B.",
  "split-pair": "Split pair: every pin comes out right, but not in its twisted pair; it fails at speed.",
  miswire: "Miswired.",
  open: "Open.",
};

/**
 * What a lead is, from the colours seen in both plugs, tab down, pin 1 on the left: for the network, or for a bus on
 * plugs.
 */
export function EthernetCheck({
  wire: {
    plan: { links },
  },
}: {
  wire: WireDesk;
}) {
  const [lead, setLead] = useState<EthernetLead>({ endA: [...T568B], endB: [...T568B] });
  const [use, setUse] = useState("network");
  const parsed = ethernetRequestSchema.safeParse(lead);
  const verdict = parsed.success ? ethernet(parsed.data) : undefined;
  const segments = pluggedSegments(links);
  const segment = segments.find(({ id }) => id === use);
  const forBus = segment && parsed.success ? leadForPorts(parsed.data, segment.a.port, segment.b.port) : undefined;
  const set = (end: "endA" | "endB", at: number, colour: string) =>
    setLead((before) => ({
      ...before,
      [end]: before[end].map((own, which) =>
        which === at ? (CHOICES.find((choice) => choice === colour) ?? own) : own,
      ),
    }));
  return (
    <section aria-label="Network lead" className="mx-auto max-w-6xl space-y-3">
      <p className="text-sm">Look into both plugs with the tab down, pin 1 on the left, and choose what you see.</p>
      {segments.length > 0 && (
        <div className="max-w-96">
          <SelectField
            label="The lead is for"
            value={use}
            options={[
              { value: "network", label: "the network" },
              ...segments.map(({ id, a, b }) => ({
                value: id,
                label: `${a.device.name} ${a.port.label} to ${b.device.name} ${b.port.label}`,
              })),
            ]}
            onValue={setUse}
          />
        </div>
      )}
      <div className="grid max-w-3xl grid-cols-[minmax(0,13rem)_minmax(3.5rem,1fr)_minmax(0,13rem)] items-end">
        <PinColours
          name={`End A${segment ? `, ${segment.a.device.name}` : ""}`}
          colours={lead.endA}
          onColour={(at, colour) => set("endA", at, colour)}
        />
        <LeadDrawing lead={lead} />
        <PinColours
          name={`End B${segment ? `, ${segment.b.device.name}` : ""}`}
          colours={lead.endB}
          isRight
          onColour={(at, colour) => set("endB", at, colour)}
        />
      </div>
      <LeadVerdict verdict={verdict} problem={parsed.error?.issues[0]?.message} forBus={forBus} />
    </section>
  );
}

interface PluggedSegment {
  readonly id: string;
  readonly a: WholeEnd;
  readonly b: WholeEnd;
}

/** The pieces of bus cable that have a plug at both ends. */
function pluggedSegments(links: readonly PlanLink[]): readonly PluggedSegment[] {
  return links
    .filter(({ kind }) => kind === "rs485" || kind === "can")
    .flatMap((link) =>
      link.ends.slice(1).flatMap((b, at) => {
        const a = link.ends[at]!;
        return isWhole(a) && isWhole(b) && a.port.connector === "rj45" && b.port.connector === "rj45"
          ? [{ id: `${link.id}:${at}`, a, b }]
          : [];
      }),
    );
}

function LeadVerdict({
  verdict,
  problem,
  forBus,
}: {
  verdict: EthernetVerdict | undefined;
  problem: string | undefined;
  forBus: LeadForPorts | undefined;
}) {
  return (
    <div role="status">
      {!verdict && <p className="font-semibold text-error">{problem}: each colour is in a plug once.</p>}
      {verdict && !forBus && (
        <>
          <p className="text-lg font-bold">{VERDICTS[verdict.verdict]}</p>
          {verdict.faults.map((fault) => (
            <p key={fault.text}>{fault.text}.</p>
          ))}
        </>
      )}
      {forBus && (
        <>
          <p className="text-lg font-bold">{forBus.kind === "right" ? "Right for this bus." : "Wrong for this bus."}</p>
          {forBus.signals.map(({ role, fromPin, toPin, wantedPin }) => (
            <p key={role}>
              {SIGNAL_WORDS[role as keyof typeof SIGNAL_WORDS] ?? role}: pin {fromPin} comes out on{" "}
              {toPin === undefined ? "no pin" : `pin ${toPin}`}
              {toPin === wantedPin ? "" : `, and should be on pin ${wantedPin}`}.
            </p>
          ))}
        </>
      )}
    </div>
  );
}

/** The pins of a plug, their numbers on the outside. */
function PinColours({
  name,
  colours,
  isRight = false,
  onColour,
}: {
  name: string;
  colours: readonly string[];
  isRight?: boolean;
  onColour: (at: number, colour: string) => void;
}) {
  return (
    <fieldset>
      <legend className={`mb-1 font-bold ${isRight ? "w-full text-right" : ""}`}>{name}</legend>
      {colours.map((colour, at) => (
        <label key={at} className={`flex h-12 items-center gap-2 ${isRight ? "flex-row-reverse" : ""}`}>
          <span className="sr-only">Pin</span>
          <span className="reading w-3 font-bold">{at + 1}</span>
          <select
            className="field min-w-0 px-2 max-md:px-1 max-md:text-sm"
            value={colour}
            onChange={(event) => onColour(at, event.target.value)}
          >
            {CHOICES.map((choice) => (
              <option key={choice} value={choice}>
                {choice === "open" ? "empty" : choice}
              </option>
            ))}
          </select>
        </label>
      ))}
    </fieldset>
  );
}
