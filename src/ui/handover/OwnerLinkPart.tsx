"use client";

import { FileText, QrCode as QrIcon } from "lucide-react";
import { OWNER_LANGUAGE_IDS, OWNER_LANGUAGES } from "@/core/handover/owner/words/ownerLanguages";
import { QrCode } from "@/ui/online/QrCode";
import { PrivateLinkPart } from "@/ui/parts/server/PrivateLinkPart";
import { useJob } from "@/ui/workspace/workspaceContext";
import { FromServer } from "@/ui/parts/show/FromServer";

/** The owner's page by a private link, which can be ended. */
export function OwnerLinkPart() {
  const { id } = useJob();
  return (
    <section aria-label="The owner’s page" className="panel space-y-2 p-3">
      <h3 className="text-lg font-bold">The owner’s page</h3>
      <p className="text-sm">
        What this site’s display and lamps mean, what is usual, and what to do when the router changes. No name, serial
        number or place stands in it.
      </p>
      <PrivateLinkPart
        path={`/api/v1/jobs/${id}/owner-link`}
        Icon={QrIcon}
        makes="Make the owner’s link"
        warning="Told once: whoever has it reads the page. Give it to the owner now."
        beside={(address) => (
          <QrCode text={address} name="the owner’s page" caption="The owner’s phone opens it by this" />
        )}
      />
      <div className="flex flex-wrap items-center gap-2">
        {OWNER_LANGUAGE_IDS.map((language) => (
          <FromServer
            key={language}
            className="btn press"
            href={`/api/v1/jobs/${id}/owner.pdf?language=${language}`}
            target="_blank"
            rel="noreferrer"
          >
            <FileText size={18} aria-hidden />
            As a sheet, {OWNER_LANGUAGES[language].name}
          </FromServer>
        ))}
      </div>
    </section>
  );
}
