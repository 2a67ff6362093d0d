"use client";

import { Plus } from "lucide-react";
import { useState } from "react";
import { addLink } from "@/core/links/editLinks";
import { freeOf, portsOf, type FreePort } from "@/core/links/propose/freePort";
import { LINK_WORDS, linkKindSchema, type LinkKind } from "@/core/plan/linkSchema";
import { SelectField } from "@/ui/parts/form/SelectField";
import type { WireDesk } from "@/ui/wire/useWire";
import { WIRE_WORDS } from "@/ui/words/wireWords";

/** A link that nobody proposed: its kind and the two ports that it joins. */
export function AddLink({ wire }: { wire: WireDesk }) {
  const { document, plan, edit } = wire;
  const [kind, setKind] = useState<LinkKind>("rs485");
  const [ends, setEnds] = useState<readonly [string, string]>(["", ""]);
  const all = portsOf(plan.joinable, kind);
  const free = kind === "wifi" ? all : freeOf(all, document.links);
  const keyOf = ({ device, port }: FreePort) => `${device.id}.${port.id}`;
  const [from, to] = ends.map((key) => free.find((port) => keyOf(port) === key));
  const needsTwo = kind !== "cellular";
  const isGood = from !== undefined && (!needsTwo || (to !== undefined && to !== from));
  const options = [
    { value: "", label: WIRE_WORDS.choose },
    ...free.map((port) => ({ value: keyOf(port), label: `${port.device.name}, ${port.port.label}` })),
  ];
  return (
    <form
      aria-label={WIRE_WORDS.addALink}
      className="panel flex flex-wrap items-start gap-3 p-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (!isGood) return;
        edit((links) => addLink(links, kind, from, needsTwo ? to : undefined));
        setEnds(["", ""]);
      }}
    >
      <LinkEndFields
        kind={kind}
        setKind={setKind}
        setEnds={setEnds}
        ends={ends}
        options={options}
        free={free}
        needsTwo={needsTwo}
      />
      <button type="submit" className="btn press mt-5" disabled={!isGood}>
        <Plus size={18} aria-hidden />
        {WIRE_WORDS.add}
      </button>
    </form>
  );
}

function LinkEndFields({
  kind,
  setKind,
  setEnds,
  ends,
  options,
  free,
  needsTwo,
}: {
  kind: LinkKind;
  setKind: (kind: LinkKind) => void;
  setEnds: (next: readonly [string, string]) => void;
  ends: readonly [string, string];
  options: { value: string; label: string }[];
  free: readonly FreePort[];
  needsTwo: boolean;
}) {
  return (
    <>
      <div className="w-40">
        <SelectField
          label={WIRE_WORDS.addALink}
          value={kind}
          options={linkKindSchema.options.map((value) => ({ value, label: LINK_WORDS[value] }))}
          onValue={(value) => {
            setKind(linkKindSchema.parse(value));
            setEnds(["", ""]);
          }}
        />
      </div>
      <div className="min-w-48 flex-1">
        <SelectField
          label={WIRE_WORDS.from}
          value={ends[0]}
          options={options}
          onValue={(value) => setEnds([value, ends[1]])}
          hint={free.length === 0 ? WIRE_WORDS.noFreePortOfThisKind : undefined}
        />
      </div>
      {needsTwo && (
        <div className="min-w-48 flex-1">
          <SelectField
            label={WIRE_WORDS.to}
            value={ends[1]}
            options={options.filter(({ value }) => value === "" || value !== ends[0])}
            onValue={(value) => setEnds([ends[0], value])}
          />
        </div>
      )}
    </>
  );
}
