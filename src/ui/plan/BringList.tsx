"use client";

import { Download, Printer } from "lucide-react";
import { lengthText } from "@/core/numberStyle";
import { materials, MATERIAL_GROUPS, type Material, type MaterialGroup } from "@/core/visit/materials";
import { useNumberStyle, useSay } from "@/ui/parts/browser/useNumberStyle";
import type { PlanDesk } from "@/ui/plan/usePlan";
import { useJob } from "@/ui/workspace/workspaceContext";

/** What to bring, worked out from the plan; ticked as it is packed. */
export function BringList({ plan }: { plan: PlanDesk }) {
  const { document, edit } = plan;
  const job = useJob();
  const list = materials(document);
  const packed = new Set(document.packed);
  const done = list.filter((item) => packed.has(item.id)).length;
  const toggle = (id: string) =>
    edit((before) => ({
      ...before,
      packed: before.packed.includes(id) ? before.packed.filter((other) => other !== id) : [...before.packed, id],
    }));
  const groups = Object.keys(MATERIAL_GROUPS).filter((group): group is MaterialGroup =>
    list.some((item) => item.group === group),
  );
  return (
    <section aria-label="What to bring" className="print-part mx-auto max-w-5xl">
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <h3 className="mr-auto text-lg font-bold">What to bring to {document.job.name}</h3>
        <span role="status" className="text-sm">
          {done} of {list.length} packed
        </span>
        <a className="btn press print:hidden" href={`/api/v1/jobs/${job.id}/materials.csv`} download>
          <Download size={18} aria-hidden />
          CSV
        </a>
        <button type="button" className="btn press print:hidden" onClick={() => window.print()}>
          <Printer size={18} aria-hidden />
          Print
        </button>
      </div>
      <div className="columns-1 gap-6 lg:columns-2">
        {groups.map((group) => (
          <div key={group} className="mb-4 break-inside-avoid">
            <h4 className="font-bold">{MATERIAL_GROUPS[group]}</h4>
            <ul>
              {list
                .filter((item) => item.group === group)
                .map((item) => (
                  <BringLine
                    key={item.id}
                    item={item}
                    isPacked={packed.has(item.id)}
                    onToggle={() => toggle(item.id)}
                  />
                ))}
            </ul>
          </div>
        ))}
      </div>
    </section>
  );
}

function BringLine({ item, isPacked, onToggle }: { item: Material; isPacked: boolean; onToggle: () => void }) {
  const say = useSay();
  const style = useNumberStyle();
  const quantity = item.unit === "m" ? lengthText(item.quantity, style) : `${item.quantity} ×`;
  return (
    <li className="border-b border-base-300">
      <label className="press flex items-center gap-3 py-1">
        <input type="checkbox" className="checkbox" checked={isPacked} onChange={onToggle} />
        <span className="reading w-20 flex-none text-right">{say(quantity)}</span>
        <span className={`min-w-0 flex-1 leading-snug ${isPacked ? "line-through" : ""}`}>
          {say(item.text)}
          <span className="quiet block text-sm">{say(item.why)}</span>
        </span>
      </label>
    </li>
  );
}
