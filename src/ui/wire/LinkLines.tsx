"use client";

import { Sparkles } from "lucide-react";
import { useMemo } from "react";
import { proposeLinks } from "@/core/links/propose/proposeLinks";
import { FindingLine } from "@/ui/parts/show/FindingLine";
import { AddLink } from "@/ui/wire/AddLink";
import { LinkCard } from "@/ui/wire/LinkCard";
import { LinkMapView } from "@/ui/wire/LinkMapView";
import type { WireDesk } from "@/ui/wire/useWire";
import { WIRE_WORDS } from "@/ui/words/wireWords";

/** The links as lines, device by device in their order, with what is wrong and the numbers of each. */
export function LinkLines({ wire }: { wire: WireDesk }) {
  const { plan, edit } = wire;
  const { links } = plan;
  const proposed = useMemo(() => proposeLinks(plan), [plan]);
  const whole = wire.findings.filter((finding) => !links.some((link) => finding.id.startsWith(`${link.id}:`)));
  return (
    <div className="mx-auto max-w-6xl space-y-4">
      <div className="flex flex-wrap items-center gap-3">
        <p className="mr-auto max-w-prose text-sm">
          {links.length === 0
            ? proposed.length === 0
              ? WIRE_WORDS.noKitOfThisPlanHasPortsThatBelong
              : WIRE_WORDS.theKitsOfThisPlanAskFor(
                  proposed.length === 1 ? WIRE_WORDS.oneLink : WIRE_WORDS.links(proposed.length),
                )
            : WIRE_WORDS.aBusGoesThroughEachDevice}
        </p>
        <button
          type="button"
          className={`btn press ${links.length === 0 ? "btn-primary" : ""}`}
          disabled={proposed.length === 0}
          onClick={() => edit(() => [...proposed])}
        >
          <Sparkles size={18} aria-hidden />
          {links.length === 0 ? WIRE_WORDS.takeWhatIsProposed : WIRE_WORDS.proposeAnew}
        </button>
      </div>
      <LinkMapView wire={wire} />
      {whole.map((finding) => (
        <FindingLine key={finding.id} finding={finding} />
      ))}
      {links.map((link) => (
        <LinkCard key={link.id} wire={wire} link={link} />
      ))}
      <AddLink wire={wire} />
    </div>
  );
}
