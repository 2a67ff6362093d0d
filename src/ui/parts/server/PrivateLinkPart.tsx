"use client";

import { Link2Off, type LucideIcon } from "lucide-react";
import type { ReactNode } from "react";
import { useWhen } from "@/ui/parts/browser/useWhen";
import { usePrivateLink } from "@/ui/parts/server/usePrivateLink";
import { PARTS_WORDS } from "@/ui/words/partsWords";

interface Props {
  /** The route that makes, shows and ends it. */
  readonly path: string;
  readonly Icon: LucideIcon;
  /** Says that it is made. */
  readonly makes: string;
  /** What whoever has it reads. */
  readonly warning: string;
  /** What stands beside the address, which is told once. */
  readonly beside?: (address: string) => ReactNode;
}

/** A private link: made, told once, made anew, ended. */
export function PrivateLinkPart({ path, Icon, makes, warning, beside }: Props) {
  const when = useWhen();
  const { link, problem, make, end } = usePrivateLink(path);
  const address = link?.path === undefined ? undefined : `${window.location.origin}${link.path}`;
  return (
    <>
      {address !== undefined && (
        <div className="flex flex-wrap items-start gap-3">
          {beside?.(address)}
          <p className="min-w-0 flex-1 basis-56 text-sm">
            <a className="link break-all" href={address} target="_blank" rel="noreferrer">
              {address}
            </a>
            <span className="quiet block">{warning}</span>
          </p>
        </div>
      )}
      <div className="flex flex-wrap items-center gap-2">
        <button type="button" className="btn press" onClick={() => void make()}>
          <Icon size={18} aria-hidden />
          {link?.madeAt ? PARTS_WORDS.makeANewLinkTheOldOneEnds : makes}
        </button>
        {link?.madeAt && (
          <button type="button" className="btn btn-ghost press" onClick={() => void end()}>
            <Link2Off size={18} aria-hidden />
            {PARTS_WORDS.endTheLinkOf(when(link.madeAt, "minute"))}
          </button>
        )}
      </div>
      {problem !== undefined && (
        <p role="alert" className="text-sm font-semibold text-error">
          {problem}
        </p>
      )}
    </>
  );
}
