"use client";

import { Plus } from "lucide-react";
import { useState } from "react";
import { addMember, changeLink, moveMember, removeLink } from "@/core/links/editLinks";
import { freeOf, portsOf } from "@/core/links/propose/freePort";
import type { PlanLink } from "@/core/plan/resolvedPlan";
import { LINK_WORDS } from "@/core/plan/linkSchema";
import { lengthText } from "@/core/numberStyle";
import { FindingLine } from "@/ui/parts/show/FindingLine";
import { RemoveButton } from "@/ui/parts/form/RemoveButton";
import { CheckField } from "@/ui/parts/form/CheckField";
import { NumberField } from "@/ui/parts/form/NumberField";
import { SelectField } from "@/ui/parts/form/SelectField";
import { SortableList } from "@/ui/parts/form/SortableList";
import { useNumberStyle } from "@/ui/parts/browser/useNumberStyle";
import { BusNumbers } from "@/ui/wire/BusNumbers";
import { LinkSettings } from "@/ui/wire/LinkSettings";
import { MemberRow } from "@/ui/wire/MemberRow";
import type { WireDesk } from "@/ui/wire/useWire";
import { WIRE_WORDS } from "@/ui/words/wireWords";

/** One link: its members in their order, what is wrong with it, and its numbers. */
export function LinkCard({ wire, link }: { wire: WireDesk; link: PlanLink }) {
  const { findings, edit } = wire;
  const style = useNumberStyle();
  const own = findings.filter((finding) => finding.id.startsWith(`${link.id}:`));
  const isLine = link.kind === "rs485" || link.kind === "can";
  const hasCable = isLine || link.kind === "ethernet" || link.kind === "dry-contact";
  return (
    <section aria-label={link.name} className="panel p-3">
      <LinkHead link={link} isLine={isLine} wire={wire} />
      {own.map((finding) => (
        <FindingLine key={finding.id} finding={finding} />
      ))}
      <SortableList
        label={WIRE_WORDS.orderOf(link.name)}
        ids={link.members.map((member) => `${member.item} ${member.port}`)}
        nameOf={(at) => link.ends[at]!.device?.name ?? link.ends[at]!.member.item}
        onMove={(at, to) => edit((links) => moveMember(links, link.id, at, to))}
        row={(at, handle) => (
          <>
            {at > 0 && (
              <p className="reading ml-6 border-l-4 border-base-content py-1 pl-3 text-sm">
                {!hasCable
                  ? LINK_WORDS[link.kind].toLowerCase()
                  : link.ends[at]!.cableM === undefined
                    ? WIRE_WORDS.noCableCanBeLaid
                    : lengthText(link.ends[at]!.cableM, style)}
              </p>
            )}
            <MemberRow
              wire={wire}
              link={link}
              at={at}
              distanceM={hasCable ? link.ends[at]!.cableM : undefined}
              handle={handle}
            />
          </>
        )}
      />
      <CheckField
        checked={link.existing === true}
        onCheck={(isChecked) =>
          edit((links) => changeLink(links, link.id, { existing: isChecked || undefined }), `${link.id} existing`)
        }
      >
        {WIRE_WORDS.alreadyThere}
      </CheckField>
      <JoinMore wire={wire} link={link} />
      <LinkSettings wire={wire} link={link} />
      <BusNumbers wire={wire} link={link} />
    </section>
  );
}

function LinkHead({ link, isLine, wire }: { link: PlanLink; isLine: boolean; wire: WireDesk }) {
  const { edit } = wire;
  return (
    <div className="flex flex-wrap items-end gap-3">
      <h3 className="mr-auto text-lg font-bold leading-tight">
        {link.name} <span className="quiet text-sm font-normal">{LINK_WORDS[link.kind]}</span>
      </h3>
      {isLine && (
        <div className="w-36">
          <NumberField
            label={WIRE_WORDS.speed}
            about={link.name}
            unit={link.kind === "can" ? "bit/s" : "baud"}
            whole
            least={300}
            most={10_000_000}
            value={link.baud}
            optional
            onValue={(baud) => edit((links) => changeLink(links, link.id, { baud }), `${link.id} baud`)}
          />
        </div>
      )}
      <RemoveButton label={WIRE_WORDS.remove(link.name)} onRemove={() => edit((links) => removeLink(links, link.id))} />
    </div>
  );
}

/** One device more on a line or a shared medium. */
function JoinMore({ wire: { document, plan, edit }, link }: { wire: WireDesk; link: PlanLink }) {
  const [chosen, setChosen] = useState("");
  if (!["rs485", "can", "radio", "power-line", "bank"].includes(link.kind)) return null;
  const here = new Set(link.members.map((member) => member.item));
  const free = freeOf(
    portsOf(plan.joinable, link.kind as "rs485" | "can" | "radio" | "power-line" | "bank"),
    document.links,
  ).filter(({ device }) => !here.has(device.id));
  if (free.length === 0) return null;
  const port = free.find(({ device, port: own }) => `${device.id}.${own.id}` === chosen);
  return (
    <div className="mt-2 flex items-end gap-2">
      <div className="min-w-0 max-w-80 flex-1">
        <SelectField
          label={WIRE_WORDS.addTo(link.name)}
          value={chosen}
          options={[
            { value: "", label: WIRE_WORDS.chooseADevice },
            ...free.map(({ device, port: own }) => ({
              value: `${device.id}.${own.id}`,
              label: `${device.name}, ${own.label}`,
            })),
          ]}
          onValue={setChosen}
        />
      </div>
      <button
        type="button"
        className="btn press"
        disabled={!port}
        onClick={() => {
          if (port) edit((links) => addMember(links, link.id, port));
          setChosen("");
        }}
      >
        <Plus size={18} aria-hidden />
        {WIRE_WORDS.join}
      </button>
    </div>
  );
}
