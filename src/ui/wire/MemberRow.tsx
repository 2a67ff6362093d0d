"use client";

import { ArrowDown, ArrowUp, X, type LucideIcon } from "lucide-react";
import type { ReactNode } from "react";
import { changeMember, moveMember, removeMember } from "@/core/links/editLinks";
import type { LinkMember } from "@/core/plan/linkSchema";
import { asksOnLine, isWhole } from "@/core/plan/linkEnds";
import type { PlanLink } from "@/core/plan/resolvedPlan";
import { lengthInM, lengthShown } from "@/core/numberStyle";
import { CheckField } from "@/ui/parts/form/CheckField";
import { NumberField } from "@/ui/parts/form/NumberField";
import { useNumberStyle } from "@/ui/parts/browser/useNumberStyle";
import type { WireDesk } from "@/ui/wire/useWire";
import { WIRE_WORDS } from "@/ui/words/wireWords";

interface Props {
  readonly wire: WireDesk;
  readonly link: PlanLink;
  readonly at: number;
  readonly distanceM: number | undefined;
  readonly handle: ReactNode;
}

interface EndProps {
  readonly wire: WireDesk;
  readonly link: PlanLink;
  readonly at: number;
  readonly name: string;
}

/** One device of a link: its port, what it is set to, and its place in the order. */
export function MemberRow({ wire, link, at, distanceM, handle }: Props) {
  const end = link.ends[at]!;
  const name = end.device?.name ?? end.member.item;
  const ofEnd = { wire, link, at, name };
  const isBus = link.kind === "rs485" || link.kind === "can";
  const isOrdered = isBus && link.members.length > 1;
  const role = link.kind === "rs485" ? lineRole(link, at) : undefined;
  return (
    <div
      className={
        "flex flex-wrap items-end gap-x-3 gap-y-1 rounded-md border-2 border-secondary " + "bg-base-100 px-2 py-1.5"
      }
    >
      <span className="mr-auto flex min-w-40 items-center gap-1 self-center leading-tight">
        {isOrdered && handle}
        <span>
          <b>{name}</b>
          <span className="quiet block text-sm">
            {end.port ? [end.port.label, ...(role ? [ROLE_WORDS[role]] : [])].join(", ") : WIRE_WORDS.thisPortIsGone}
          </span>
        </span>
      </span>
      {role === "server" && <AddressField {...ofEnd} />}
      {at > 0 && distanceM !== undefined && <CableField {...ofEnd} distanceM={distanceM} />}
      {isBus && <TerminatorTick {...ofEnd} />}
      <MemberButtons {...ofEnd} isOrdered={isOrdered} />
    </div>
  );
}

const ROLE_WORDS = {
  passing: WIRE_WORDS.passesFramesOn,
  client: WIRE_WORDS.clientAsks,
  server: WIRE_WORDS.serverAnswers,
} as const;

function lineRole(link: PlanLink, at: number): keyof typeof ROLE_WORDS {
  const end = link.ends[at]!;
  if (end.device?.kit.kind === "radio-pair") return "passing";
  return isWhole(end) && asksOnLine(end, at) ? "client" : "server";
}

function changeEnd({ wire, link, at }: EndProps, part: Partial<LinkMember>, field?: string): void {
  wire.edit((links) => changeMember(links, link.id, at, part), field && `${link.id} ${at} ${field}`);
}

function AddressField(end: EndProps) {
  return (
    <div className="w-24">
      <NumberField
        label={WIRE_WORDS.address}
        about={end.name}
        whole
        least={0}
        most={65_535}
        value={end.link.members[end.at]!.address}
        optional
        onValue={(address) => changeEnd(end, { address }, "address")}
      />
    </div>
  );
}

function CableField({ distanceM, ...end }: EndProps & { readonly distanceM: number }) {
  const style = useNumberStyle();
  return (
    <div className="w-28">
      <NumberField
        label={WIRE_WORDS.cable}
        about={WIRE_WORDS.toWith(end.name)}
        unit={style.lengths === "us" ? "ft" : "m"}
        optional
        value={Number(lengthShown(distanceM, style).toPrecision(4))}
        most={30_000}
        onValue={(value) =>
          changeEnd(end, { distanceM: value === undefined ? undefined : lengthInM(value, style) }, "cable")
        }
      />
    </div>
  );
}

function TerminatorTick(end: EndProps) {
  return (
    <CheckField
      checked={end.link.members[end.at]!.terminator ?? false}
      onCheck={(isChecked) => changeEnd(end, { terminator: isChecked })}
    >
      {WIRE_WORDS.terminator}
      <span className="sr-only"> {WIRE_WORDS.at(end.name)}</span>
    </CheckField>
  );
}

/** Its place in the order, and whether it is on the link at all. */
function MemberButtons({ wire, link, at, name, isOrdered }: EndProps & { readonly isOrdered: boolean }) {
  const canLeave = ["rs485", "can", "radio", "power-line", "bank"].includes(link.kind) && link.members.length > 2;
  if (!isOrdered && !canLeave) return null;
  const move = (to: number) => wire.edit((links) => moveMember(links, link.id, at, to));
  return (
    <span className="flex">
      {isOrdered && (
        <RowButton
          says={WIRE_WORDS.moveUpTheLine(name)}
          Icon={ArrowUp}
          disabled={at === 0}
          onClick={() => move(at - 1)}
        />
      )}
      {isOrdered && (
        <RowButton
          says={WIRE_WORDS.moveDownTheLine(name)}
          Icon={ArrowDown}
          disabled={at === link.members.length - 1}
          onClick={() => move(at + 1)}
        />
      )}
      {canLeave && (
        <RowButton
          says={WIRE_WORDS.takeOff(name, link.name)}
          Icon={X}
          onClick={() => wire.edit((links) => removeMember(links, link.id, at))}
        />
      )}
    </span>
  );
}

interface RowButtonProps {
  readonly says: string;
  readonly Icon: LucideIcon;
  readonly disabled?: boolean;
  readonly onClick: () => void;
}

function RowButton({ says, Icon, disabled, onClick }: RowButtonProps) {
  return (
    <button type="button" className="btn btn-ghost press px-2" disabled={disabled} title={says} onClick={onClick}>
      <Icon size={18} aria-hidden />
      <span className="sr-only">{says}</span>
    </button>
  );
}
