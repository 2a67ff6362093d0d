"use client";

import { ArrowDown, ArrowUp, X } from "lucide-react";
import type { ReactNode } from "react";
import { changeMember, moveMember, removeMember } from "@/core/links/editLinks";
import type { LinkMember } from "@/core/plan/linkSchema";
import { asksOnLine, isWhole } from "@/core/plan/linkEnds";
import type { PlanLink } from "@/core/plan/resolvedPlan";
import { lengthInM, lengthShown } from "@/core/numberStyle";
import { NumberField } from "@/ui/parts/form/NumberField";
import { useNumberStyle } from "@/ui/parts/browser/useNumberStyle";
import type { WireDesk } from "@/ui/wire/useWire";

interface Props {
  readonly wire: WireDesk;
  readonly link: PlanLink;
  readonly at: number;
  readonly distanceM: number | undefined;
  readonly handle: ReactNode;
}

/** One device of a link: its port, what it is set to, and its place in the order. */
export function MemberRow({ wire, link, at, distanceM, handle }: Props) {
  const { edit } = wire;
  const style = useNumberStyle();
  const end = link.ends[at]!;
  const { member } = end;
  const change = (part: Partial<LinkMember>, field?: string) =>
    edit((links) => changeMember(links, link.id, at, part), field && `${link.id} ${at} ${field}`);
  const name = end.device?.name ?? member.item;
  const isBus = link.kind === "rs485" || link.kind === "can";
  const isPair = end.device?.kit.kind === "radio-pair";
  const asks = isWhole(end) && asksOnLine(end, at);
  const role = isPair ? "passes frames on" : asks ? "client: asks" : "server: answers";
  const isOrdered = isBus && link.members.length > 1;
  const canLeave = ["rs485", "can", "radio", "power-line"].includes(link.kind) && link.members.length > 2;
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
            {end.port ? `${end.port.label}${link.kind === "rs485" ? `, ${role}` : ""}` : "this port is gone"}
          </span>
        </span>
      </span>
      {link.kind === "rs485" && !asks && !isPair && (
        <div className="w-24">
          <NumberField
            label="Address"
            about={name}
            whole
            least={0}
            most={65_535}
            value={member.address}
            optional
            onValue={(address) => change({ address }, "address")}
          />
        </div>
      )}
      {at > 0 && distanceM !== undefined && (
        <div className="w-28">
          <NumberField
            label="Cable"
            about={`to ${name}`}
            unit={style.lengths === "us" ? "ft" : "m"}
            optional
            value={Number(lengthShown(distanceM, style).toPrecision(4))}
            most={30_000}
            onValue={(value) =>
              change({ distanceM: value === undefined ? undefined : lengthInM(value, style) }, "cable")
            }
          />
        </div>
      )}
      {isBus && (
        <label className="press flex items-center gap-2 text-sm">
          <input
            type="checkbox"
            className="checkbox checkbox-sm"
            checked={member.terminator ?? false}
            onChange={(event) => change({ terminator: event.target.checked })}
          />
          Terminator<span className="sr-only"> at {name}</span>
        </label>
      )}
      {(isOrdered || canLeave) && (
        <span className="flex">
          {isOrdered && (
            <button
              type="button"
              className="btn btn-ghost press px-2"
              disabled={at === 0}
              title={`Move ${name} up the line`}
              onClick={() => edit((links) => moveMember(links, link.id, at, at - 1))}
            >
              <ArrowUp size={18} aria-hidden />
              <span className="sr-only">Move {name} up the line</span>
            </button>
          )}
          {isOrdered && (
            <button
              type="button"
              className="btn btn-ghost press px-2"
              disabled={at === link.members.length - 1}
              title={`Move ${name} down the line`}
              onClick={() => edit((links) => moveMember(links, link.id, at, at + 1))}
            >
              <ArrowDown size={18} aria-hidden />
              <span className="sr-only">Move {name} down the line</span>
            </button>
          )}
          {canLeave && (
            <button
              type="button"
              className="btn btn-ghost press px-2"
              title={`Take ${name} off`}
              onClick={() => edit((links) => removeMember(links, link.id, at))}
            >
              <X size={18} aria-hidden />
              <span className="sr-only">
                Take {name} off {link.name}
              </span>
            </button>
          )}
        </span>
      )}
    </div>
  );
}
