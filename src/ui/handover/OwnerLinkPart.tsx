"use client";

import { FileText, QrCode as QrIcon } from "lucide-react";
import { OWNER_LANGUAGE_IDS, OWNER_LANGUAGES } from "@/core/handover/owner/words/ownerLanguages";
import { QrCode } from "@/ui/online/QrCode";
import { PrivateLinkPart } from "@/ui/parts/server/PrivateLinkPart";
import { useJob } from "@/ui/workspace/workspaceContext";
import { FromServer } from "@/ui/parts/show/FromServer";
import { HANDOVER_WORDS } from "@/ui/words/handoverWords";

/** The owner's page by a private link, which can be ended. */
export function OwnerLinkPart() {
  const { id } = useJob();
  return (
    <section aria-label={HANDOVER_WORDS.theOwnersPage} className="panel space-y-2 p-3">
      <h3 className="text-lg font-bold">{HANDOVER_WORDS.theOwnersPage}</h3>
      <p className="text-sm">{HANDOVER_WORDS.whatThisSitesDisplayAndLampsMean}</p>
      <PrivateLinkPart
        path={`/api/v1/jobs/${id}/owner-link`}
        Icon={QrIcon}
        makes={HANDOVER_WORDS.makeTheOwnersLink}
        warning={HANDOVER_WORDS.toldOnceWhoeverHasItReadsThePage}
        beside={(address) => (
          <QrCode
            text={address}
            name={HANDOVER_WORDS.theOwnersPageLower}
            caption={HANDOVER_WORDS.theOwnersPhoneOpensItByThis}
          />
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
            {HANDOVER_WORDS.asASheet(OWNER_LANGUAGES[language].name)}
          </FromServer>
        ))}
      </div>
    </section>
  );
}
