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
import { WIRE_WORDS } from "@/ui/words/wireWords";

const CHOICES = [...T568B, "open"] as const;
const VERDICTS: Readonly<Record<EthernetVerdict["verdict"], string>> = {
  straight: WIRE_WORDS.straightPinToPinPairsWhole,
  crossed: WIRE_WORDS.crossedOneEndT568aTheOtherT568b,
  "split-pair": WIRE_WORDS.splitPairEveryPinComesOutRightBut,
  miswire: WIRE_WORDS.miswired,
  open: WIRE_WORDS.open,
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
    <section aria-label={WIRE_WORDS.networkLead} className="mx-auto max-w-6xl space-y-3">
      <p className="text-sm">{WIRE_WORDS.lookIntoBothPlugsWithTheTabDownPin}</p>
      {segments.length > 0 && (
        <div className="max-w-96">
          <SelectField
            label={WIRE_WORDS.theLeadIsFor}
            value={use}
            options={[
              { value: "network", label: WIRE_WORDS.theNetwork },
              ...segments.map(({ id, a, b }) => ({
                value: id,
                label: WIRE_WORDS.toOf(a.device.name, a.port.label, b.device.name, b.port.label),
              })),
            ]}
            onValue={setUse}
          />
        </div>
      )}
      <div className="grid max-w-3xl grid-cols-[minmax(0,13rem)_minmax(3.5rem,1fr)_minmax(0,13rem)] items-end">
        <PinColours
          name={WIRE_WORDS.endA(segment ? `, ${segment.a.device.name}` : "")}
          colours={lead.endA}
          onColour={(at, colour) => set("endA", at, colour)}
        />
        <LeadDrawing lead={lead} />
        <PinColours
          name={WIRE_WORDS.endB(segment ? `, ${segment.b.device.name}` : "")}
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
      {!verdict && (
        <p className="font-semibold text-error">
          {problem}
          {WIRE_WORDS.eachColourIsInAPlugOnce}
        </p>
      )}
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
          <p className="text-lg font-bold">
            {forBus.kind === "right" ? WIRE_WORDS.rightForThisBus : WIRE_WORDS.wrongForThisBus}
          </p>
          {forBus.signals.map(({ role, fromPin, toPin, wantedPin }) => (
            <p key={role}>
              {WIRE_WORDS.pinComesOutOn(
                SIGNAL_WORDS[role as keyof typeof SIGNAL_WORDS] ?? role,
                fromPin,
                toPin === undefined ? WIRE_WORDS.noPin : WIRE_WORDS.pin(toPin),
                toPin === wantedPin ? "" : WIRE_WORDS.andShouldBeOnPin(wantedPin),
              )}
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
          <span className="sr-only">{WIRE_WORDS.pinTitle}</span>
          <span className="reading w-3 font-bold">{at + 1}</span>
          <select
            className="field min-w-0 px-2 max-md:px-1 max-md:text-sm"
            value={colour}
            onChange={(event) => onColour(at, event.target.value)}
          >
            {CHOICES.map((choice) => (
              <option key={choice} value={choice}>
                {choice === "open" ? WIRE_WORDS.empty : choice}
              </option>
            ))}
          </select>
        </label>
      ))}
    </fieldset>
  );
}
