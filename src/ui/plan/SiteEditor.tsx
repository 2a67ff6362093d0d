"use client";

import { Plus, Trash2 } from "lucide-react";
import { useEffect, useRef, useState } from "react";
import {
  addEquipment,
  addNode,
  changeEquipment,
  changeNode,
  changeSupply,
  removeEquipment,
  removeNode,
} from "@/core/edits/editPlan";
import { colourSchemeSchema, COLOUR_SCHEMES } from "@/core/site/conductorColours";
import { drawnOrder } from "@/core/site/fitClamp";
import { phasesOfSupply } from "@/core/site/phasors";
import {
  type Equipment,
  type NodeKind,
  nodeKindSchema,
  ownerSchema,
  type SiteNode,
  type Supply,
} from "@/core/site/planSchema";
import { nameSchema } from "@/core/names";
import { phaseSchema, type Phase } from "@/core/phase";
import { phasesOf, siteTree } from "@/core/site/tree";
import { powerText } from "@/core/units";
import { capital } from "@/core/words";
import { CheckField } from "@/ui/parts/form/CheckField";
import { FindingLine } from "@/ui/parts/show/FindingLine";
import { HeaterFields } from "@/ui/plan/HeaterFields";
import { KitLink } from "@/ui/plan/KitLink";
import { RemoveButton } from "@/ui/parts/form/RemoveButton";
import { NumberField } from "@/ui/parts/form/NumberField";
import { WireSizeField } from "@/ui/parts/form/WireSizeField";
import { SelectField } from "@/ui/parts/form/SelectField";
import { TextField } from "@/ui/parts/form/TextField";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { kitKindsOf, NODE_KIND_WORDS } from "@/ui/plan/kindWords";
import type { PlanDesk } from "@/ui/plan/usePlan";
import { PLAN_WORDS } from "@/ui/words/planWords";

const SYSTEMS = [
  { value: "single-phase", label: PLAN_WORDS.singlePhase },
  { value: "split-phase", label: PLAN_WORDS.splitPhase },
  { value: "three-phase", label: PLAN_WORDS.threePhase },
] as const;
const VOLTAGE_V = { "single-phase": 230, "split-phase": 120, "three-phase": 230 } as const;

type NodeChange = (part: Parameters<typeof changeNode>[1], field?: string) => void;

/** Supply, devices and boards as a tree, and what stands on no run. */
export function SiteEditor({ plan }: { plan: PlanDesk }) {
  return (
    <div className="space-y-4">
      <SupplyForm plan={plan} />
      <DeviceTree plan={plan} />
      <EquipmentList plan={plan} />
    </div>
  );
}

function SupplyForm({ plan }: { plan: PlanDesk }) {
  const { site, document, edit } = plan;
  const { supply } = site;
  const scheme = COLOUR_SCHEMES[document.job.colourScheme];
  const conductors = ["L1", "L2", "L3", "N"] as const;
  const colours = conductors.map((conductor) => `${conductor} ${scheme.colours[conductor].name}`).join(", ");
  return (
    <details className="panel p-2">
      <summary className="press flex cursor-pointer items-center font-bold">
        {PLAN_WORDS.supply} {SYSTEMS.find(({ value }) => value === supply.system)?.label.toLowerCase()},{" "}
        {supply.mainFuseA === undefined ? PLAN_WORDS.mainFuseNotKnown : `${supply.mainFuseA} A`}
      </summary>
      <div className="grid grid-cols-2 gap-2">
        <SupplyFields plan={plan} />
        {supply.system === "three-phase" && (
          <SelectField
            label={PLAN_WORDS.rotation}
            value={supply.rotation}
            options={[
              { value: "L1-L2-L3", label: "L1 L2 L3" },
              { value: "L1-L3-L2", label: "L1 L3 L2" },
            ]}
            onValue={(rotation) => edit(changeSupply({ rotation: rotation as Supply["rotation"] }))}
          />
        )}
        <div className={supply.system === "three-phase" ? "" : "col-span-2"}>
          <SelectField
            label={PLAN_WORDS.conductorColours}
            value={document.job.colourScheme}
            options={colourSchemeSchema.options.map((value) => ({ value, label: COLOUR_SCHEMES[value].name }))}
            hint={PLAN_WORDS.whatIsOnTheWallWins(colours, scheme.source)}
            onValue={(value) =>
              edit((before) => ({ ...before, job: { ...before.job, colourScheme: colourSchemeSchema.parse(value) } }))
            }
          />
        </div>
      </div>
    </details>
  );
}

function SupplyFields({ plan }: { plan: PlanDesk }) {
  const { site, edit } = plan;
  const { supply } = site;
  return (
    <>
      <SelectField
        label={PLAN_WORDS.system}
        value={supply.system}
        options={SYSTEMS}
        onValue={(value) => {
          const system = value as Supply["system"];
          edit(changeSupply({ system, voltageV: VOLTAGE_V[system], frequencyHz: system === "split-phase" ? 60 : 50 }));
        }}
      />
      <NumberField
        label={PLAN_WORDS.mainFuse}
        unit="A"
        optional
        value={supply.mainFuseA}
        most={5000}
        onValue={(mainFuseA) => edit(changeSupply({ mainFuseA: mainFuseA || undefined }), "mainFuse")}
      />
      <NumberField
        label={supply.system === "split-phase" ? PLAN_WORDS.oneLegToNeutral : PLAN_WORDS.phaseToNeutral}
        unit="V"
        value={supply.voltageV}
        least={10}
        most={100_000}
        onValue={(voltageV) => voltageV !== undefined && edit(changeSupply({ voltageV }), "voltage")}
      />
      <NumberField
        label={PLAN_WORDS.frequency}
        unit="Hz"
        value={supply.frequencyHz}
        least={10}
        most={500}
        onValue={(frequencyHz) => frequencyHz !== undefined && edit(changeSupply({ frequencyHz }), "frequency")}
      />
    </>
  );
}

function DeviceTree({ plan }: { plan: PlanDesk }) {
  const { site, picked, pick } = plan;
  const say = useSay();
  const tree = siteTree(site);
  const depthOf = (node: SiteNode): number =>
    node.fedFrom && node.fedFrom !== tree.grid.id ? 1 + depthOf(tree.nodeById.get(node.fedFrom)!) : 0;
  return (
    <section aria-label={PLAN_WORDS.devicesAndBoards}>
      <h3 className="mb-1 font-bold">{PLAN_WORDS.devicesAndBoards}</h3>
      <ul className="space-y-1">
        {drawnOrder(site).map((node) => {
          const isPicked = picked?.kind === "node" && picked.id === node.id;
          const phases = phasesOf(node, site);
          return (
            <li key={node.id} style={{ marginLeft: Math.min(depthOf(node), 4) * 14 }}>
              <button
                type="button"
                aria-expanded={isPicked}
                data-device={node.id}
                className={
                  "press flex w-full items-center gap-2 rounded-md border px-2 py-1 text-left " +
                  `${isPicked ? "border-primary bg-base-100 font-bold" : "border-base-300 bg-base-100"}`
                }
                onClick={() => pick(isPicked ? undefined : { kind: "node", id: node.id })}
              >
                <span className="min-w-0 flex-1 truncate">{node.name}</span>
                {node.existing && <span className="quiet text-xs">{PLAN_WORDS.existing}</span>}
                <span className="quiet reading text-xs">{phases.join(" ")}</span>
                <span className="reading w-16 text-right text-xs">
                  {node.ratedW ? say(powerText(node.ratedW)) : ""}
                </span>
              </button>
              {isPicked && <NodeForm key={node.id} plan={plan} node={node} />}
            </li>
          );
        })}
      </ul>
      <AddNode plan={plan} />
    </section>
  );
}

function NodeForm({ plan, node }: { plan: PlanDesk; node: SiteNode }) {
  const { edit, pick, kitOf, findings } = plan;
  const kit = kitOf(node.kit);
  const change: NodeChange = (part, field) => edit(changeNode(node.id, part), field && `${node.id} ${field}`);
  const own = findings.filter((finding) => finding.subject.kind === "node" && finding.subject.node === node.id);
  const form = useRef<HTMLDivElement>(null);
  // Picked on the board, its form may be far down the list.
  useEffect(() => {
    form.current?.scrollIntoView({ block: "nearest" });
  }, []);
  return (
    <div ref={form} className="mb-2 space-y-2 rounded-b-md border border-t-0 border-primary bg-base-100 p-2">
      {own.map((finding) => (
        <FindingLine key={finding.id} finding={finding} />
      ))}
      <div className="grid grid-cols-2 gap-2">
        <NodeFeedFields plan={plan} node={node} change={change} />
        <NodeSizeFields node={node} change={change} plan={plan} />
      </div>
      <NodeKitField node={node} plan={plan} />
      {kit && (
        <p className="text-sm">
          {PLAN_WORDS.valuesOf} <KitLink kit={kit} />
        </p>
      )}
      {node.kind === "diverter" && (
        <HeaterFields node={node} kit={kit} onHeater={(heater, field) => change({ heater }, field)} />
      )}
      <NodeOwnerFields node={node} change={change} />
      <button
        type="button"
        className="btn press"
        onClick={() => {
          pick(undefined);
          edit(removeNode(node.id));
        }}
      >
        <Trash2 size={18} aria-hidden />
        {PLAN_WORDS.removeOf(node.name)}
      </button>
    </div>
  );
}

function NodeKitField({ node, plan: { kits, kitOf, edit } }: { node: SiteNode; plan: PlanDesk }) {
  const kinds = kitKindsOf(node.kind);
  if (kinds.length === 0) return null;
  return (
    kinds.length > 0 && (
      <SelectField
        label={PLAN_WORDS.kit}
        value={node.kit ?? ""}
        hint={kitOf(node.kit)?.source}
        options={[
          { value: "", label: PLAN_WORDS.none },
          ...kits.filter((kit) => kinds.includes(kit.kind)).map((kit) => ({ value: kit.id, label: kit.name })),
        ]}
        onValue={(id) => edit(changeNode(node.id, { kit: id || undefined }, kitOf(id)))}
      />
    )
  );
}

function NodeFeedFields({ plan: { site }, node, change }: { plan: PlanDesk; node: SiteNode; change: NodeChange }) {
  const tree = siteTree(site);
  const feeder = tree.nodeById.get(node.fedFrom ?? "");
  const offered = feeder ? phasesOf(feeder, site) : phasesOfSupply(site.supply);
  const phases = phasesOf(node, site);
  const feeders = [tree.grid, ...tree.runs].filter(
    (candidate) => !tree.belowRun.get(node.id)?.has(candidate.id) && candidate.kind !== "test-load",
  );
  const togglePhase = (phase: Phase) => {
    const next = offered.filter((candidate) =>
      candidate === phase ? !phases.includes(candidate) : phases.includes(candidate),
    );
    if (next.length > 0) change({ phases: [...next] });
  };
  return (
    <>
      <TextField
        label={PLAN_WORDS.name}
        value={node.name}
        schema={nameSchema}
        onValue={(name) => change({ name }, "name")}
      />
      <SelectField
        label={PLAN_WORDS.kind}
        value={node.kind}
        options={nodeKindSchema.options
          .filter((kind) => kind !== "grid")
          .map((kind) => ({ value: kind, label: NODE_KIND_WORDS[kind] }))}
        onValue={(kind) => change({ kind: kind as NodeKind, kit: undefined })}
      />
      <SelectField
        label={PLAN_WORDS.fedFrom}
        value={node.fedFrom ?? ""}
        options={feeders.map((candidate) => ({ value: candidate.id, label: candidate.name }))}
        onValue={(fedFrom) => change({ fedFrom })}
      />
      <fieldset className="text-sm">
        <legend className="mb-0.5 font-semibold">{PLAN_WORDS.phases}</legend>
        <div className="flex gap-1">
          {offered.map((phase) => (
            <button
              key={phase}
              type="button"
              aria-pressed={phases.includes(phase)}
              className={`btn press flex-1 px-1 ${phases.includes(phase) ? "btn-neutral" : ""}`}
              onClick={() => togglePhase(phaseSchema.parse(phase))}
            >
              {phase}
            </button>
          ))}
        </div>
      </fieldset>
    </>
  );
}

function NodeSizeFields({ node, change, plan }: { node: SiteNode; change: NodeChange; plan: PlanDesk }) {
  const { site } = plan;
  return (
    <>
      <NumberField
        label={PLAN_WORDS.rating}
        unit="kW"
        optional
        value={node.ratedW === undefined ? undefined : node.ratedW / 1000}
        most={1_000_000}
        onValue={(kw) => change({ ratedW: kw ? Math.round(kw * 1e6) / 1e3 : undefined }, "rating")}
      />
      <NumberField
        label={PLAN_WORDS.breakerOrFuse}
        unit="A"
        optional
        value={node.fuseA}
        most={100_000}
        onValue={(fuseA) => change({ fuseA: fuseA || undefined }, "fuse")}
      />
      {node.kind === "load" && (
        <NumberField
          label={PLAN_WORDS.atNightTitle}
          unit="W"
          optional
          value={node.nightW}
          most={1e9}
          onValue={(nightW) => change({ nightW }, "night")}
        />
      )}
      <CableFields node={node} change={change} />
      <SelectField
        label={PLAN_WORDS.place}
        value={node.place ?? ""}
        options={[
          { value: "", label: PLAN_WORDS.notSaid },
          ...site.places.map((place) => ({ value: place.id, label: place.name })),
        ]}
        onValue={(place) => change({ place: place || undefined })}
      />
    </>
  );
}

function CableFields({ node, change }: { node: SiteNode; change: NodeChange }) {
  return (
    <>
      <WireSizeField
        label={PLAN_WORDS.conductor}
        value={node.cableMm2}
        mostMm2={2000}
        onValue={(cableMm2) => change({ cableMm2 }, "cable")}
      />
      <NumberField
        label={PLAN_WORDS.overInsulation}
        unit="mm"
        optional
        value={node.cableOuterMm}
        most={500}
        onValue={(cableOuterMm) => change({ cableOuterMm: cableOuterMm || undefined }, "outer")}
      />
    </>
  );
}

function NodeOwnerFields({ node, change }: { node: SiteNode; change: NodeChange }) {
  return (
    <div className="grid grid-cols-2 items-end gap-2">
      <CheckField
        checked={node.existing === true}
        onCheck={(isChecked) => change({ existing: isChecked || undefined })}
      >
        {PLAN_WORDS.alreadyThere}
      </CheckField>
      <TextField
        label={PLAN_WORDS.belongsTo}
        value={node.owner ?? ""}
        schema={ownerSchema}
        placeholder={PLAN_WORDS.theCustomer}
        onValue={(owner) => change({ owner: owner || undefined }, "owner")}
      />
    </div>
  );
}

function AddNode({ plan }: { plan: PlanDesk }) {
  const { site, kits, edit, pick, kitOf } = plan;
  const [choice, setChoice] = useState("");
  const boards = [siteTree(site).grid, ...siteTree(site).runs.filter((node) => node.kind === "board")];
  const fallback = boards.find((node) => node.kind === "board")?.id ?? boards[0]!.id;
  const [fedFrom, setFedFrom] = useState(fallback);
  const feeder = boards.some((node) => node.id === fedFrom) ? fedFrom : fallback;
  const plain: readonly NodeKind[] = ["board", "load", "test-load"];
  const deviceKits = kits.filter((kit) => nodeKindSchema.safeParse(kit.kind).success);
  const add = () => {
    const kit = kitOf(choice);
    const kind = kit ? nodeKindSchema.parse(kit.kind) : nodeKindSchema.parse(choice);
    const name = capital(NODE_KIND_WORDS[kind]);
    const before = new Set(site.nodes.map((node) => node.id));
    edit((document) => {
      const after = addNode({ kind, name, fedFrom: feeder, ...(kit ? { kit } : {}) })(document);
      const added = after.site.nodes.find((node) => !before.has(node.id));
      if (added) pick({ kind: "node", id: added.id });
      return after;
    });
    setChoice("");
  };
  return (
    <div className="mt-2 grid grid-cols-[1fr_1fr_auto] items-end gap-2">
      <SelectField
        label={PLAN_WORDS.add}
        value={choice}
        onValue={setChoice}
        options={[
          { value: "", label: PLAN_WORDS.choose },
          ...plain.map((kind) => ({ value: kind, label: NODE_KIND_WORDS[kind] })),
          ...deviceKits.map((kit) => ({ value: kit.id, label: kit.name })),
        ]}
      />
      <SelectField
        label={PLAN_WORDS.fedFromLower}
        value={feeder}
        onValue={setFedFrom}
        options={boards.map((node) => ({ value: node.id, label: node.name }))}
      />
      <button type="button" className="btn press" disabled={choice === ""} onClick={add}>
        <Plus size={18} aria-hidden />
        {PLAN_WORDS.add}
      </button>
    </div>
  );
}

function EquipmentList({ plan }: { plan: PlanDesk }) {
  const { site, kits, edit, kitOf } = plan;
  const loose = kits.filter((kit) => !nodeKindSchema.safeParse(kit.kind).success && kit.kind !== "ct" && !kit.metering);
  return (
    <section aria-label={PLAN_WORDS.batteriesGatewaysAndModules}>
      <h3 className="mb-1 font-bold">{PLAN_WORDS.batteriesGatewaysModules}</h3>
      <ul className="space-y-2">
        {site.equipment.map((item) => (
          <EquipmentRow key={item.id} item={item} plan={plan} />
        ))}
      </ul>
      <div className="mt-2">
        <SelectField
          label={PLAN_WORDS.add}
          value=""
          options={[
            { value: "", label: PLAN_WORDS.choose },
            ...loose.map((kit) => ({ value: kit.id, label: kit.name })),
          ]}
          onValue={(id) => {
            const kit = kitOf(id);
            if (kit) edit(addEquipment(kit.name, kit));
          }}
        />
      </div>
    </section>
  );
}

function EquipmentRow({ item, plan }: { item: Equipment; plan: PlanDesk }) {
  const { kitOf, edit, site } = plan;
  return (
    <li className="rounded-md border border-base-300 bg-base-100 p-2">
      <div className="grid grid-cols-[1fr_1fr_auto] items-end gap-2">
        <TextField
          label={kitOf(item.kit)?.name ?? PLAN_WORDS.name}
          value={item.name}
          schema={nameSchema}
          onValue={(name) => edit(changeEquipment(item.id, { name }), `${item.id} name`)}
        />
        <SelectField
          label={PLAN_WORDS.place}
          value={item.place ?? ""}
          options={[
            { value: "", label: PLAN_WORDS.notSaid },
            ...site.places.map((place) => ({ value: place.id, label: place.name })),
          ]}
          onValue={(place) => edit(changeEquipment(item.id, { place: place || undefined }))}
        />
        <RemoveButton label={PLAN_WORDS.removeOf(item.name)} onRemove={() => edit(removeEquipment(item.id))} />
      </div>
      <CheckField
        checked={item.existing === true}
        onCheck={(isChecked) => edit(changeEquipment(item.id, { existing: isChecked || undefined }))}
      >
        {PLAN_WORDS.alreadyThere}
      </CheckField>
    </li>
  );
}
