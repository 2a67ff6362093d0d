"use client";

import { ArrowDown, ArrowUp, Sparkles, Trash2 } from "lucide-react";
import { changeLink, changeMember, moveMember, removeLink } from "@/core/links/editLinks";
import { busOfLink } from "@/core/links/busOfLink";
import { memberDistancesM, memberPort } from "@/core/links/linkItems";
import type { Link, LinkMember } from "@/core/links/linkSchema";
import { proposeLinks } from "@/core/links/proposeLinks";
import { rs485 } from "@/core/links/rs485";
import { lengthInM, lengthShown, lengthText } from "@/core/numberStyle";
import { FindingLine } from "@/ui/parts/FindingLine";
import { threeDigits } from "@/core/units";
import { NumberField } from "@/ui/parts/NumberField";
import { useNumberStyle, useSay } from "@/ui/parts/useNumberStyle";
import { LinkMapView } from "@/ui/wire/LinkMapView";
import type { Wire } from "@/ui/wire/useWire";

const KINDS: Readonly<Record<Link["kind"], string>> = { rs485: "RS-485", can: "CAN" };

/** The links as lines, device by device in their order, with what is wrong and the numbers of each bus. */
export function LinkLines({ wire }: { wire: Wire }) {
  const { document, edit } = wire;
  const { site, kits, links } = document;
  const proposed = proposeLinks(site, kits);
  const whole = wire.findings.filter((finding) => !links.some((link) => finding.id.startsWith(`${link.id}:`)));
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      <div className="flex flex-wrap items-center gap-3">
        <p className="mr-auto max-w-prose text-sm">{links.length === 0
          ? proposed.length === 0 ? "No kit of this plan has ports that belong together over a bus. Give devices and meters their kits under Plan." : `The kits of this plan ask for ${proposed.length === 1 ? "one link" : `${proposed.length} links`}.`
          : "In the order of the cable: the line goes through each device, never in a star."}</p>
        <button type="button" className={`btn press ${links.length === 0 ? "btn-primary" : ""}`} disabled={proposed.length === 0} onClick={() => edit(() => [...proposed])}><Sparkles size={18} aria-hidden />{links.length === 0 ? "Take what is proposed" : "Propose anew"}</button>
      </div>
      <LinkMapView wire={wire} />
      {whole.map((finding) => <FindingLine key={finding.id} finding={finding} />)}
      {links.map((link) => <LinkCard key={link.id} wire={wire} link={link} />)}
    </div>
  );
}

function LinkCard({ wire, link }: { wire: Wire; link: Link }) {
  const { document: { site, kits }, items, findings, edit } = wire;
  const style = useNumberStyle();
  const distances = memberDistancesM(site, items, link);
  const own = findings.filter((finding) => finding.id.startsWith(`${link.id}:`));
  return (
    <section aria-label={link.name} className="panel p-3">
      <div className="flex flex-wrap items-end gap-3">
        <h3 className="mr-auto text-lg font-bold leading-tight">{link.name} <span className="quiet text-sm font-normal">{KINDS[link.kind]}</span></h3>
        <div className="w-36"><NumberField label="Speed" unit={link.kind === "can" ? "bit/s" : "Bd"} whole least={300} most={10_000_000} value={link.baud} optional onValue={(baud) => edit((links) => changeLink(links, link.id, { baud }), `${link.id} baud`)} /></div>
        <button type="button" className="btn btn-ghost press px-2" title={`Remove ${link.name}`} onClick={() => edit((links) => removeLink(links, link.id))}><Trash2 size={18} aria-hidden /><span className="sr-only">Remove {link.name}</span></button>
      </div>
      {own.map((finding) => <FindingLine key={finding.id} finding={finding} />)}
      <ol className="mt-2">
        {link.members.map((member, at) => (
          <li key={`${member.item} ${member.port}`}>
            {at > 0 && <p className="reading ml-6 border-l-4 border-base-content py-1 pl-3 text-sm">{distances[at] === undefined ? "no cable can be laid" : lengthText(distances[at], style)}</p>}
            <MemberRow wire={wire} link={link} member={member} at={at} distanceM={distances[at]} />
          </li>
        ))}
      </ol>
      {link.kind === "rs485" && <BusNumbers bus={busOfLink(site, kits, link)} />}
    </section>
  );
}

function MemberRow({ wire, link, member, at, distanceM }: { wire: Wire; link: Link; member: LinkMember; at: number; distanceM: number | undefined }) {
  const { items, edit } = wire;
  const style = useNumberStyle();
  const end = memberPort(items, member);
  const change = (part: Partial<LinkMember>, field?: string) => edit((links) => changeMember(links, link.id, at, part), field && `${link.id} ${at} ${field}`);
  const name = end?.item.name ?? member.item;
  const isServer = link.kind === "rs485" && end?.port.role !== "client";
  return (
    <div className="flex flex-wrap items-end gap-x-3 gap-y-1 rounded-md border-2 border-secondary bg-base-100 px-3 py-1.5">
      <span className="mr-auto min-w-40 self-center leading-tight"><b>{name}</b><span className="quiet block text-sm">{end ? `${end.port.label}${link.kind === "rs485" ? `, ${end.port.role === "client" ? "client: asks" : "server: answers"}` : ""}` : "this port is gone"}</span></span>
      {isServer && <div className="w-24"><NumberField label="Address" about={name} whole least={0} most={65_535} value={member.address} optional onValue={(address) => change({ address }, "address")} /></div>}
      {at > 0 && <div className="w-28"><NumberField label="Cable" about={`to ${name}`} unit={style.lengths === "us" ? "ft" : "m"} optional value={distanceM === undefined ? undefined : Number(lengthShown(distanceM, style).toPrecision(4))} most={30_000} onValue={(value) => change({ distanceM: value === undefined ? undefined : lengthInM(value, style) }, "cable")} /></div>}
      <label className="press flex items-center gap-2 text-sm"><input type="checkbox" className="checkbox checkbox-sm" checked={member.terminator ?? false} onChange={(event) => change({ terminator: event.target.checked })} />Terminator<span className="sr-only"> at {name}</span></label>
      <span className="flex">
        <button type="button" className="btn btn-ghost press px-2" disabled={at === 0} title={`Move ${name} up the line`} onClick={() => edit((links) => moveMember(links, link.id, at, -1))}><ArrowUp size={18} aria-hidden /><span className="sr-only">Move {name} up the line</span></button>
        <button type="button" className="btn btn-ghost press px-2" disabled={at === link.members.length - 1} title={`Move ${name} down the line`} onClick={() => edit((links) => moveMember(links, link.id, at, 1))}><ArrowDown size={18} aria-hidden /><span className="sr-only">Move {name} down the line</span></button>
      </span>
    </div>
  );
}

/** The numbers of a line as they can be measured, and whether terminators make a difference. */
function BusNumbers({ bus }: { bus: ReturnType<typeof busOfLink> }) {
  const say = useSay();
  if (!bus) return null;
  const figures = rs485(bus);
  const three = (value: number) => say(String(threeDigits(value)));
  const rows = [
    ["Length", `${three(figures.lengthM)} m of ${three(figures.maxLengthM)} m at ${bus.baud} Bd`],
    ["A to B, everything off", `${three(figures.resistanceOffOhm)} Ω: terminators of 120 Ω and inputs side by side`],
    ["A to B, idle", `${three(figures.idleMv)} mV`], ["At the far end", `${three(figures.farEndMv)} mV`], ["Longest stub", `${three(figures.stubLimitM)} m`],
    ["Terminators", figures.terminationMatters ? "needed at both ends: the round trip is longer than a tenth of a bit" : "make no difference at this length; both schools pass"],
  ];
  return <dl className="mt-3 grid gap-x-4 text-sm sm:grid-cols-[auto_1fr_auto_1fr]">{rows.map(([name, value]) => <div key={name} className="contents"><dt className="font-semibold">{name}</dt><dd>{value}</dd></div>)}</dl>;
}
