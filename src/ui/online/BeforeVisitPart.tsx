"use client";

import { Download } from "lucide-react";
import { beforeVisit, outboundSheet, type OutboundRow } from "@/core/chain/beforeVisit";
import { resolve } from "@/core/plan/resolve";
import { downloadText } from "@/ui/parts/browser/downloadText";
import { useEditor, useJob } from "@/ui/workspace/workspaceContext";
import { ONLINE_WORDS } from "@/ui/words/onlineWords";

/** What the way online needs before anybody drives there, and what the customer's firewall must let out. */
export function BeforeVisitPart() {
  const { document } = useJob();
  const editor = useEditor();
  const plan = resolve(document);
  const items = beforeVisit(plan);
  const rows = outboundSheet(plan);
  const packed = new Set(document.packed);
  const tick = (id: string, isDone: boolean) =>
    editor.edit((before) => ({
      ...before,
      packed: isDone ? [...before.packed, id] : before.packed.filter((own) => own !== id),
    }));
  return (
    <div className="mx-auto grid max-w-6xl grid-cols-1 items-start gap-4 lg:grid-cols-2">
      <section aria-label={ONLINE_WORDS.toHaveAndToAsk} className="panel p-3">
        <h3 className="text-lg font-bold">{ONLINE_WORDS.toHaveAndToAsk}</h3>
        {items.length === 0 && <p>{ONLINE_WORDS.nothingNoDeviceOfThisPlanIsSeen}</p>}
        <ul className="space-y-1">
          {items.map(({ id, text, why }) => (
            <li key={id}>
              <label className="press flex items-start gap-2 rounded p-1">
                <input
                  type="checkbox"
                  className="checkbox mt-0.5"
                  checked={packed.has(`online ${id}`)}
                  onChange={(event) => tick(`online ${id}`, event.target.checked)}
                />
                <span>
                  <b>{text}</b>
                  <span className="quiet block text-sm">{why}</span>
                </span>
              </label>
            </li>
          ))}
        </ul>
      </section>
      <OutboundSheet rows={rows} name={document.job.name} />
    </div>
  );
}

function OutboundSheet({ rows, name }: { rows: readonly OutboundRow[]; name: string }) {
  return (
    <section aria-label={ONLINE_WORDS.outboundPorts} className="panel space-y-2 p-3">
      <h3 className="text-lg font-bold">{ONLINE_WORDS.outboundPortsForTheCustomers}</h3>
      {rows.length === 0 ? (
        <p>{ONLINE_WORDS.noKitOfThisPlanSaysWhatMustGetOut}</p>
      ) : (
        <>
          <div className="overflow-x-auto" role="region" aria-label={ONLINE_WORDS.outboundPortsTable} tabIndex={0}>
            <table className="stacked w-full text-left text-sm">
              <thead>
                <tr className="border-b border-base-300">
                  {[ONLINE_WORDS.device, ONLINE_WORDS.to, ONLINE_WORDS.port, ONLINE_WORDS.for].map((head) => (
                    <th key={head} scope="col" className="py-1 pr-3">
                      {head}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {rows.map(({ device, to, port, protocol, why }) => (
                  <tr key={`${device} ${to} ${port} ${protocol}`} className="border-b border-base-300">
                    <th scope="row" className="py-1 pr-3 font-semibold">
                      {device}
                    </th>
                    <td data-column={ONLINE_WORDS.to} className="py-1 pr-3">
                      {to}
                    </td>
                    <td data-column={ONLINE_WORDS.port} className="reading py-1 pr-3">
                      {port}/{protocol}
                    </td>
                    <td data-column={ONLINE_WORDS.for} className="py-1">
                      {why}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
          <button
            type="button"
            className="btn press"
            onClick={() => downloadText("ports.txt", sheetText(rows, name), "text/plain")}
          >
            <Download size={18} aria-hidden />
            {ONLINE_WORDS.asATextToSend}
          </button>
        </>
      )}
    </section>
  );
}

function sheetText(rows: readonly OutboundRow[], name: string): string {
  return [
    ONLINE_WORDS.outboundConnectionsFor(name),
    ONLINE_WORDS.allOfThemBeginInsideNothing,
    "",
    ...rows.map(({ device, to, port, protocol, why }) => ONLINE_WORDS.portOf(device, to, port, protocol, why)),
    "",
  ].join("\n");
}
