"use client";

import { useState } from "react";
import { ethernet, ethernetRequestSchema, type EthernetLead, type EthernetVerdict } from "@/core/links/ethernet";
import { SelectField } from "@/ui/parts/SelectField";

const T568B: EthernetLead["endA"] = ["white-orange", "orange", "white-green", "blue", "white-blue", "green", "white-brown", "brown"];
const CHOICES = [...T568B, "open"] as const;
const VERDICTS: Readonly<Record<EthernetVerdict["verdict"], string>> = {
  "straight": "Straight: pin to pin, pairs whole.", "crossed": "Crossed: one end T568A, the other T568B.", "split-pair": "Split pair: every pin comes out right, but not in its twisted pair; it fails at speed.",
  "miswire": "Miswired.", "open": "Open.",
};

/** What a network lead is, from the colours seen in both plugs, tab down, pin 1 on the left. */
export function EthernetCheck() {
  const [lead, setLead] = useState<EthernetLead>({ endA: [...T568B], endB: [...T568B] });
  const parsed = ethernetRequestSchema.safeParse(lead);
  const verdict = parsed.success ? ethernet(parsed.data) : undefined;
  const set = (end: "endA" | "endB", at: number, colour: string) =>
    setLead((before) => ({ ...before, [end]: before[end].map((own, which) => which === at ? CHOICES.find((choice) => choice === colour) ?? own : own) }));
  return (
    <section aria-label="Network lead" className="mx-auto max-w-6xl space-y-3">
      <p className="text-sm">Look into both plugs with the tab down, pin 1 on the left, and choose what you see.</p>
      {(["endA", "endB"] as const).map((end) => (
        <fieldset key={end} className="grid grid-cols-2 gap-2 sm:grid-cols-4 xl:grid-cols-8">
          <legend className="mb-1 font-bold">{end === "endA" ? "End A" : "End B"}</legend>
          {lead[end].map((colour, at) => <SelectField key={at} label={`Pin ${at + 1}`} value={colour} options={CHOICES.map((choice) => ({ value: choice, label: choice === "open" ? "empty" : choice }))} onValue={(value) => set(end, at, value)} />)}
        </fieldset>
      ))}
      <div role="status">
        {verdict
          ? <><p className="text-lg font-bold" data-lead-verdict={verdict.verdict}>{VERDICTS[verdict.verdict]}</p>{verdict.faults.map((fault) => <p key={fault.text}>{fault.text}.</p>)}</>
          : <p className="font-semibold text-error">{parsed.error?.issues[0]?.message}: each colour is in a plug once.</p>}
      </div>
    </section>
  );
}
