import type { JobDocument } from "@/core/job/jobDocument";
import { idealCt } from "@/core/site/idealCt";
import { phasesOfSupply } from "@/core/site/phasors";
import { possibleHosts } from "@/core/site/meterHost";
import type { Ct, Meter, MeterInput, Site, SiteNode, WindowEntry } from "@/core/site/planSchema";
import type { Phase } from "@/core/phase";

/**
 * Make a job hang together again after an edit of its plan: what was fed by something that went hangs from what fed
 * that, phases shrink to what the feeder has, windows, plugs, test steps and readings of what is gone go with it, and
 * a CT that sat as planned follows the plan. What is untouched stays the same.
 *
 * For example: After a board of three phases becomes one of L1, the devices below it are on L1.
 *
 * @param before The job before the edit, for what was as planned.
 */
export function tidyPlan(before: JobDocument, after: JobDocument): JobDocument {
  const nodes = tidyNodes(before.site, after.site);
  const placed = tidyPlaces({ ...after.site, nodes });
  const meters = placed.meters.flatMap((meter) => tidyMeter(meter, placed));
  const site: Site = { ...placed, meters, cts: tidyCts(before.site, { ...placed, meters }) };
  return {
    ...after,
    site,
    tests: tidyTests(after, site),
    kits: usedKits(after, site),
    links: tidyLinks(after.links, site),
    visit: tidyVisit(after.visit, site),
  };
}

function tidyNodes(before: Site, after: Site): SiteNode[] {
  const supplyPhases = phasesOfSupply(after.supply);
  const grid = after.nodes.find((node) => node.kind === "grid")!;
  const byId = new Map(after.nodes.map((node) => [node.id, node]));
  const feederOf = (node: SiteNode): string => {
    let feeder = node.fedFrom ?? grid.id;
    const passed = new Set<string>([node.id]);
    while (!byId.has(feeder) || passed.has(feeder)) {
      if (passed.has(feeder)) return grid.id;
      passed.add(feeder);
      feeder = before.nodes.find((candidate) => candidate.id === feeder)?.fedFrom ?? grid.id;
    }
    return feeder;
  };
  const feeders = new Map(after.nodes.filter((node) => node.kind !== "grid").map((node) => [node.id, feederOf(node)]));
  for (const id of feeders.keys()) if (isCircle(id, feeders, grid.id)) feeders.set(id, grid.id);
  const phases = new Map<string, Phase[]>();
  const phasesOf = (id: string): readonly Phase[] => {
    if (id === grid.id) return supplyPhases;
    const known = phases.get(id);
    if (known) return known;
    const offered = phasesOf(feeders.get(id) ?? grid.id);
    const wanted = byId.get(id)?.phases ?? [...offered];
    const kept = offered.filter((phase) => wanted.includes(phase));
    const result = kept.length > 0 ? kept : offered.slice(0, 1);
    phases.set(id, result);
    return result;
  };
  return after.nodes.map((node) =>
    node.kind === "grid" ? node : { ...node, fedFrom: feeders.get(node.id)!, phases: [...phasesOf(node.id)] },
  );
}

function isCircle(start: string, feeders: ReadonlyMap<string, string>, grid: string): boolean {
  const visited = new Set<string>();
  for (let id = start; id !== grid; id = feeders.get(id) ?? grid) {
    if (visited.has(id)) return true;
    visited.add(id);
  }
  return false;
}

function tidyPlaces(site: Site): Site {
  const known = new Set(site.places.map((place) => place.id));
  const here = <T extends { readonly place?: string | undefined }>(item: T): T => {
    if (item.place === undefined || known.has(item.place)) return item;
    const { place: _gone, ...rest } = item;
    return rest as T; // the field is optional in every T
  };
  return {
    ...site,
    nodes: site.nodes.map(here),
    meters: site.meters.map(here),
    equipment: site.equipment.map(here),
    ways: site.ways.filter((way) => known.has(way.from) && known.has(way.to)),
  };
}

function tidyMeter(meter: Meter, site: Site): Meter[] {
  const supplyPhases = phasesOfSupply(site.supply);
  const taps = Object.fromEntries(
    Object.entries(meter.taps).map(([tap, phase]) => [tap, supplyPhases.includes(phase) ? phase : supplyPhases[0]!]),
  );
  const nodeIds = new Set(site.nodes.map((node) => node.id));
  const isHostGone =
    typeof meter.partOf === "string" &&
    !possibleHosts(site, meter).some(({ id }) => id === meter.partOf) &&
    !site.equipment.some(({ id, kit }) => id === meter.partOf && kit === meter.kit);
  const { partOf: _host, ...alone } = meter;
  const inputs = meter.inputs.flatMap((input): MeterInput[] => {
    const measures = tidyWindow(input.measures, site);
    const of = input.of?.filter((id) => nodeIds.has(id));
    // An input that measured only what is gone has nothing left to be for.
    if (measures.length === 0) return [];
    return [
      {
        ...input,
        measures,
        tap: Object.hasOwn(taps, input.tap) ? input.tap : Object.keys(taps)[0]!,
        ...(of === undefined ? {} : { of }),
      },
    ];
  });
  return inputs.length === 0 ? [] : [{ ...(isHostGone ? alone : meter), taps, inputs }];
}

function tidyWindow(entries: readonly WindowEntry[], site: Site): WindowEntry[] {
  const seen = new Set<string>();
  return entries.flatMap((entry) => {
    const node = site.nodes.find((candidate) => candidate.id === entry.run);
    if (!node || node.kind === "grid") return [];
    const conductor = entry.conductor === "N" || node.phases?.includes(entry.conductor) ? entry.conductor : undefined;
    const key = `${entry.run} ${entry.conductor}`;
    if (!conductor || seen.has(key)) return [];
    seen.add(key);
    return [{ run: entry.run, conductor }];
  });
}

function tidyCts(before: Site, site: Site): Ct[] {
  const inputOf = (of: Site, meter: string, n: number) => {
    const found = of.meters.find((candidate) => candidate.id === meter);
    const input = found?.inputs.find((candidate) => candidate.n === n);
    return found && input ? { meter: found, input } : undefined;
  };
  return site.cts.flatMap((ct) => {
    if (!ct.plug) return [{ ...ct, around: tidyWindow(ct.around, site) }];
    const was = inputOf(before, ct.plug.meter, ct.plug.input);
    const is = inputOf(site, ct.plug.meter, ct.plug.input);
    // A CT goes with its input, as its label does.
    if (!is) return was ? [] : [{ ...ct, plug: null, around: tidyWindow(ct.around, site) }];
    if (was && isAsPlanned(ct, was.meter, was.input)) return [{ ...idealCt(is.meter, is.input), id: ct.id }];
    return [{ ...ct, around: tidyWindow(ct.around, site) }];
  });
}

function isAsPlanned(ct: Ct, meter: Meter, input: MeterInput): boolean {
  return JSON.stringify({ ...idealCt(meter, input), id: "" }) === JSON.stringify({ ...ct, id: "" });
}

function tidyTests({ tests }: JobDocument, site: Site): JobDocument["tests"] {
  const nodes = new Map(site.nodes.map((node) => [node.id, node]));
  const hasInput = (meter: string, input: number) =>
    site.meters.some((candidate) => candidate.id === meter && candidate.inputs.some(({ n }) => n === input));
  const steps = tests.steps.map((step) => ({
    ...step,
    devices: step.devices
      .filter((device) => nodes.has(device.node))
      .map((device) => {
        if (!device.perPhase) return device;
        const kept = Object.entries(device.perPhase).filter(([phase]) =>
          nodes.get(device.node)?.phases?.includes(phase as Phase),
        );
        return { ...device, perPhase: Object.fromEntries(kept) as typeof device.perPhase };
      }),
    readings: step.readings.filter((reading) => hasInput(reading.meter, reading.input)),
  }));
  return {
    ...tests,
    steps,
    ...(tests.background ? { background: tests.background.filter((load) => nodes.has(load.node)) } : {}),
  };
}

/** A link without what went; one end alone is none. */
function tidyLinks(links: JobDocument["links"], site: Site): JobDocument["links"] {
  const items = new Set([...site.nodes, ...site.meters, ...site.equipment].map(({ id }) => id));
  return links
    .map((link) => ({ ...link, members: link.members.filter((member) => items.has(member.item)) }))
    .filter((link) => link.members.length > (link.kind === "cellular" ? 0 : 1));
}

/** Strings belong to their inverter. */
function tidyVisit(visit: JobDocument["visit"], site: Site): JobDocument["visit"] {
  const kept = visit.strings.filter(({ device }) => site.nodes.some(({ id }) => id === device));
  return kept.length === visit.strings.length ? visit : { ...visit, strings: kept };
}

function usedKits({ kits }: JobDocument, site: Site): JobDocument["kits"] {
  const used = new Set<string | undefined>([
    ...site.nodes.map((node) => node.kit),
    ...site.equipment.map((item) => item.kit),
    ...site.meters.map((meter) => meter.kit),
    ...site.meters.flatMap((meter) => meter.inputs.map((input) => input.clamp?.kit)),
  ]);
  return kits.filter((kit) => used.has(kit.id));
}
