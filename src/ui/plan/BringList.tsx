"use client";

import { Download, Printer } from "lucide-react";
import { FromServer } from "@/ui/parts/show/FromServer";
import { useState } from "react";
import { lengthText } from "@/core/numberStyle";
import { groupedMaterials, MATERIAL_VIEWS, type MaterialView } from "@/core/visit/bring/groupedMaterials";
import type { Material } from "@/core/visit/bring/material";
import { materials } from "@/core/visit/materials";
import { useNumberStyle, useSay } from "@/ui/parts/browser/useNumberStyle";
import type { PlanDesk } from "@/ui/plan/usePlan";
import { useJob } from "@/ui/workspace/workspaceContext";
import { PLAN_WORDS } from "@/ui/words/planWords";

/** What to bring, worked out from the plan; ticked as it is packed. */
export function BringList({ plan }: { plan: PlanDesk }) {
  const { document, edit } = plan;
  const job = useJob();
  const [view, setView] = useState<MaterialView>("kind");
  const list = materials(document);
  const packed = new Set(document.packed);
  const done = list.filter((item) => packed.has(item.id)).length;
  const toggle = (id: string) =>
    edit((before) => ({
      ...before,
      packed: before.packed.includes(id) ? before.packed.filter((other) => other !== id) : [...before.packed, id],
    }));
  const bundles = groupedMaterials(list, view, document.site.places);
  return (
    <section aria-label={PLAN_WORDS.whatToBring} className="print-part mx-auto max-w-5xl">
      <div className="mb-3 flex flex-wrap items-center gap-2">
        <h3 className="mr-auto text-lg font-bold">{PLAN_WORDS.whatToBringTo(document.job.name)}</h3>
        <span role="status" className="text-sm">
          {PLAN_WORDS.ofPacked(done, list.length)}
        </span>
        <FromServer className="btn press print:hidden" href={`/api/v1/jobs/${job.id}/materials.csv`} download>
          <Download size={18} aria-hidden />
          {PLAN_WORDS.csv}
        </FromServer>
        <button type="button" className="btn press print:hidden" onClick={() => window.print()}>
          <Printer size={18} aria-hidden />
          {PLAN_WORDS.print}
        </button>
      </div>
      <ViewChoice view={view} onView={setView} />
      <div className="columns-1 gap-6 lg:columns-2">
        {bundles.map(({ title, lines }) => (
          <div key={title} className="mb-4 break-inside-avoid">
            <h4 className="font-bold">{title}</h4>
            <ul>
              {lines.map(({ item, quantity }) => (
                <BringLine
                  key={item.id}
                  item={item}
                  quantity={quantity}
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

function ViewChoice({ view, onView }: { view: MaterialView; onView: (view: MaterialView) => void }) {
  return (
    <fieldset className="mb-3 flex flex-wrap gap-x-4 print:hidden">
      <legend className="sr-only">{PLAN_WORDS.howTheListIsRead}</legend>
      {Object.entries(MATERIAL_VIEWS).map(([id, words]) => (
        <label key={id} className="press flex items-center gap-2 text-sm">
          <input
            type="radio"
            className="radio radio-sm"
            name="bring-view"
            checked={view === id}
            onChange={() => onView(id as MaterialView)}
          />
          {words}
        </label>
      ))}
    </fieldset>
  );
}

interface LineProps {
  readonly item: Material;
  readonly quantity: number;
  readonly isPacked: boolean;
  readonly onToggle: () => void;
}

function BringLine({ item, quantity: count, isPacked, onToggle }: LineProps) {
  const say = useSay();
  const style = useNumberStyle();
  const quantity = item.unit === "m" ? lengthText(count, style) : `${count} ×`;
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
