"use client";

import { FileText, Link2Off, QrCode as QrIcon } from "lucide-react";
import { OWNER_LANGUAGE_IDS, OWNER_LANGUAGES } from "@/core/handover/owner/words/ownerLanguages";
import { QrCode } from "@/ui/online/QrCode";
import { useWhen } from "@/ui/parts/browser/useNumberStyle";
import { usePrivateLink } from "@/ui/parts/server/usePrivateLink";
import { useJob } from "@/ui/workspace/workspaceContext";

/** The owner's page by a private link, which can be ended. */
export function OwnerLinkPart() {
  const when = useWhen();
  const { id } = useJob();
  const { link, problem, make, end } = usePrivateLink(`/api/v1/jobs/${id}/owner-link`);
  const address = link?.path === undefined ? undefined : `${window.location.origin}${link.path}`;
  return (
    <section aria-label="The owner’s page" className="panel space-y-2 p-3">
      <h3 className="text-lg font-bold">The owner’s page</h3>
      <p className="text-sm">
        What this site’s display and lamps mean, what is usual, and what to do when the router changes. No name, serial
        number or place stands in it.
      </p>
      {address !== undefined && (
        <div className="flex flex-wrap items-start gap-3">
          <QrCode text={address} name="the owner’s page" caption="The owner’s phone opens it by this" />
          <p className="min-w-0 flex-1 basis-56 text-sm">
            <a className="link break-all" href={address} target="_blank" rel="noreferrer">
              {address}
            </a>
            <span className="quiet block">Told once: whoever has it reads the page. Give it to the owner now.</span>
          </p>
        </div>
      )}
      <div className="flex flex-wrap items-center gap-2">
        <button type="button" className="btn press" onClick={() => void make()}>
          <QrIcon size={18} aria-hidden />
          {link?.madeAt ? "Make a new link, the old one ends" : "Make the owner’s link"}
        </button>
        {link?.madeAt && (
          <button type="button" className="btn btn-ghost press" onClick={() => void end()}>
            <Link2Off size={18} aria-hidden />
            End the link of {when(link.madeAt, "minute")}
          </button>
        )}
      </div>
      <div className="flex flex-wrap items-center gap-2">
        {OWNER_LANGUAGE_IDS.map((language) => (
          <a
            key={language}
            className="btn press"
            href={`/api/v1/jobs/${id}/owner.pdf?language=${language}`}
            target="_blank"
            rel="noreferrer"
          >
            <FileText size={18} aria-hidden />
            As a sheet, {OWNER_LANGUAGES[language].name}
          </a>
        ))}
      </div>
      {problem !== undefined && (
        <p role="alert" className="text-sm font-semibold text-error">
          {problem}
        </p>
      )}
    </section>
  );
}
