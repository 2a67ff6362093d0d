"use client";

import { useEffect, useMemo, useState } from "react";
import type { z } from "zod";
import { THEN_WORDS, thenAndNow, type ThenAndNow } from "@/core/handover/service/thenAndNow";
import { handoverAnswerSchema } from "@/core/handover/version/handoverVersion";
import { inputFlowText } from "@/core/site/inputFlowText";
import type { Site } from "@/core/site/planSchema";
import { useConnected } from "@/ui/parts/browser/useConnected";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { useWhen } from "@/ui/parts/browser/useWhen";
import { callApi } from "@/ui/parts/server/apiClient";
import { useJob } from "@/ui/workspace/workspaceContext";
import { HANDOVER_WORDS } from "@/ui/words/handoverWords";

type HandedOver = z.output<typeof handoverAnswerSchema>;

/** On a later visit: what is read now beside what was read at the hand over, with what is not as it was. */
export function ThenAndNowPart() {
  const { document } = useJob();
  const when = useWhen();
  const then = useNewestHandover(document.visit.earlier.length > 0);
  const rows = useMemo(() => (then ? thenAndNow(then.document, document) : []), [then, document]);
  if (!then) return null;
  return (
    <section aria-label={HANDOVER_WORDS.thenAndNow} className="panel space-y-2 p-3">
      <h3 className="text-lg font-bold">{HANDOVER_WORDS.thenAndNow}</h3>
      <p className="text-sm">{HANDOVER_WORDS.thenVersionHandedOverPowersDiffer(then.number, when(then.at, "day"))}</p>
      {rows.length === 0 ? (
        <p className="font-semibold">{HANDOVER_WORDS.nothingWasReadYetInAStep}</p>
      ) : (
        <ul className="divide-y divide-base-300">
          {rows.map((row) => (
            <RowLine
              key={`${row.step} ${row.tag}`}
              row={row}
              sites={{ then: then.document.site, now: document.site }}
            />
          ))}
        </ul>
      )}
    </section>
  );
}

function RowLine({ row, sites }: { row: ThenAndNow; sites: { readonly then: Site; readonly now: Site } }) {
  const say = useSay();
  const text = (site: Site, powerW: number) => say(inputFlowText(site, row.meter, row.input, powerW));
  const isRight = row.kind === "as-then" || row.kind === "right-now";
  return (
    <li className="grid gap-x-3 py-2 text-sm sm:grid-cols-[minmax(0,1fr)_minmax(0,1fr)_minmax(0,1fr)]">
      <p>
        <b>{row.tag}</b>, {row.step}
        <span className={`block font-semibold ${isRight ? "text-success" : "text-warning"}`}>
          {THEN_WORDS[row.kind]}
        </span>
      </p>
      <p>
        <b>{HANDOVER_WORDS.then}</b> {text(sites.then, row.thenW)}
        <span className="quiet block">{HANDOVER_WORDS.expected(text(sites.then, row.thenExpectedW))}</span>
      </p>
      <p>
        <b>{HANDOVER_WORDS.nowTitle}</b> {text(sites.now, row.nowW)}
        <span className="quiet block">{HANDOVER_WORDS.expected(text(sites.now, row.nowExpectedW))}</span>
      </p>
    </li>
  );
}

/** The newest hand over of the open job; undefined without a connection, or where none is. */
function useNewestHandover(isAsked: boolean): HandedOver | undefined {
  const { id } = useJob();
  const isConnected = useConnected();
  const [found, setFound] = useState<HandedOver | undefined>();
  useEffect(() => {
    if (!isAsked || !isConnected) return;
    void callApi("GET", `/api/v1/jobs/${id}/handovers/newest`, handoverAnswerSchema)
      .then((answer) => answer.kind === "ok" && setFound(answer.value))
      .catch(() => undefined);
  }, [id, isAsked, isConnected]);
  return found;
}
