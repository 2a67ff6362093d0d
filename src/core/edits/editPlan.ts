import type { JobDocument } from "@/core/job/jobDocument";
import type { Kit } from "@/core/kits/kitSchema";
import { tidyPlan } from "@/core/edits/tidyPlan";
import { advisedPrimaryA } from "@/core/sensing/advisedPrimary";
import { idealCt } from "@/core/site/idealCt";
import { likelyHost } from "@/core/site/meterHost";
import { phasesOfSupply } from "@/core/site/phasors";
import type {
  Conductor,
  Equipment,
  Meter,
  MeterInput,
  NodeKind,
  Place,
  SensingRole,
  Site,
  SiteNode,
  Supply,
  Way,
} from "@/core/site/planSchema";
import type { Phase } from "@/core/phase";
import { siteTree } from "@/core/site/tree";
import { withoutEmpty } from "@/core/withoutEmpty";

const UNKNOWN_PRIMARY_A = 100;
const MAX_METERS = 24;
const MAX_NODES = 200;

/**
 * Every edit takes a job and gives one that hangs together again; where it cannot be done the job comes back unchanged.
 */
type Edit = (document: JobDocument) => JobDocument;

/**
 * Change the supply. Going to more phases, a run that had them all gets the new ones too.
 *
 * For example: changeSupply({ system: "three-phase" }) makes a board of L1 one of L1, L2 and L3.
 */
export function changeSupply(change: Partial<Supply>): Edit {
  return (document) => {
    const supply = { ...document.site.supply, ...change };
    const before = phasesOfSupply(document.site.supply);
    const now = [...phasesOfSupply(supply)];
    const nodes = document.site.nodes.map((node) =>
      node.kind !== "grid" &&
      node.kind !== "test-load" &&
      node.phases?.length === before.length &&
      now.length > before.length &&
      (node.kind === "board" || node.kind === "load")
        ? { ...node, phases: now }
        : node,
    );
    return edited(document, { supply, nodes });
  };
}

/** Add a device or board below a feeder, on all of the feeder's phases (a small one on one). */
export function addNode({
  kind,
  name,
  fedFrom,
  kit,
}: {
  readonly kind: NodeKind;
  readonly name: string;
  readonly fedFrom: string;
  readonly kit?: Kit;
}): Edit {
  return (document) => {
    const { site } = document;
    if (site.nodes.length >= MAX_NODES) return document;
    const feeder = site.nodes.find((node) => node.id === fedFrom);
    if (!feeder) return document;
    const offered = feeder.kind === "grid" ? phasesOfSupply(site.supply) : (feeder.phases ?? []);
    const most = kit?.ratings.phases
      ? Math.max(...kit.ratings.phases.filter((count) => count <= offered.length), 1)
      : kind === "board" || kind === "load"
        ? offered.length
        : 1;
    const node: SiteNode = {
      id: freeId(
        site.nodes.map(({ id }) => id),
        name,
      ),
      kind,
      name,
      fedFrom,
      phases: offered.slice(0, most),
      ...(kit ? { kit: kit.id, ...(kit.ratings.powerW ? { ratedW: kit.ratings.powerW } : {}) } : {}),
      ...(feeder.place ? { place: feeder.place } : {}),
    };
    return edited(withKit(document, kit), { nodes: [...site.nodes, node] });
  };
}

/** Change one device or board. Giving it a feeder below itself changes nothing. */
export function changeNode(id: string, change: Partial<Omit<SiteNode, "id">>, kit?: Kit): Edit {
  return (document) => {
    const { site } = document;
    if (change.fedFrom !== undefined && siteTree(site).belowRun.get(id)?.has(change.fedFrom)) return document;
    return edited(withKit(document, kit), {
      nodes: site.nodes.map((node) => (node.id === id ? withoutEmpty({ ...node, ...change }) : node)),
    });
  };
}

/** Take a device or board off; what it fed hangs from what fed it. */
export function removeNode(id: string): Edit {
  return (document) =>
    edited(document, { nodes: document.site.nodes.filter((node) => node.id !== id || node.kind === "grid") });
}

/** Add a room or a wall. */
export function addPlace(name: string, shelter: Place["shelter"]): Edit {
  return (document) =>
    edited(document, {
      places: [
        ...document.site.places,
        {
          id: freeId(
            document.site.places.map(({ id }) => id),
            name,
          ),
          name,
          shelter,
        },
      ],
    });
}

/** Change the name or the shelter of a place. */
export function changePlace(id: string, change: Partial<Omit<Place, "id">>): Edit {
  return (document) =>
    edited(document, {
      places: document.site.places.map((place) => (place.id === id ? { ...place, ...change } : place)),
    });
}

/** Take a place away; what was there has none then. */
export function removePlace(id: string): Edit {
  return (document) => edited(document, { places: document.site.places.filter((place) => place.id !== id) });
}

/** Set, or with undefined remove, the way between two places. */
export function setWay(from: string, to: string, way: Omit<Way, "from" | "to"> | undefined): Edit {
  return (document) => {
    const others = document.site.ways.filter(
      (other) => !((other.from === from && other.to === to) || (other.from === to && other.to === from)),
    );
    return edited(document, { ways: way ? [...others, withoutEmpty({ from, to, ...way })] : others });
  };
}

/** Add what stands on no run. */
export function addEquipment(name: string, kit: Kit): Edit {
  return (document) =>
    edited(withKit(document, kit), {
      equipment: [
        ...document.site.equipment,
        {
          id: freeId(
            document.site.equipment.map(({ id }) => id),
            name,
          ),
          name,
          kit: kit.id,
        },
      ],
    });
}

/** Change a piece of equipment. */
export function changeEquipment(id: string, change: Partial<Omit<Equipment, "id">>): Edit {
  return (document) =>
    edited(document, {
      equipment: document.site.equipment.map((item) => (item.id === id ? withoutEmpty({ ...item, ...change }) : item)),
    });
}

/** Take a piece of equipment away, from its links too. */
export function removeEquipment(id: string): Edit {
  return (document) => edited(document, { equipment: document.site.equipment.filter((item) => item.id !== id) });
}

/** Add a meter of a kit, its first inputs on the phases of a run and each with a CT as planned. */
export function addMeter({
  name,
  kit,
  run,
  role,
}: {
  readonly name: string;
  readonly kit: Kit;
  readonly run: string;
  readonly role: SensingRole;
}): Edit {
  return (document) => {
    const { site } = document;
    const node = site.nodes.find((candidate) => candidate.id === run);
    const metering = kit.metering;
    if (!node || node.kind === "grid" || !metering || site.meters.length >= MAX_METERS) return document;
    const supplyPhases = phasesOfSupply(site.supply);
    const names = metering.taps.slice(0, supplyPhases.length);
    const taps: Record<string, Phase> = Object.fromEntries(
      names.map((tap, at) => [tap, (names.length === 1 ? node.phases?.[0] : supplyPhases[at]) ?? "L1"]),
    );
    const id = freeId(
      site.meters.map((meter) => meter.id),
      name,
    );
    const meter: Meter = { id, name, kit: kit.id, classPct: metering.classPct, taps, inputs: [] };
    const inputs = (node.phases ?? [])
      .slice(0, metering.inputs.length)
      .map((conductor, at) => newInput(site, meter, kit, { n: metering.inputs[at]!.n, run, conductor, role }));
    const host = node.kit === kit.id ? node.id : likelyHost(site, meter);
    const whole: Meter = { ...meter, inputs, ...(host === undefined ? {} : { partOf: host }) };
    const cts = inputs.map((input) => ({
      ...idealCt(whole, input),
      id: freeId(
        site.cts.map((ct) => ct.id),
        `ct-${id}-${input.n}`,
      ),
    }));
    return edited(withKit(document, kit), { meters: [...site.meters, whole], cts: [...site.cts, ...cts] });
  };
}

/** Change what is said of a meter as a whole. */
export function changeMeter(id: string, change: Partial<Omit<Meter, "id">>, kit?: Kit): Edit {
  return (document) =>
    edited(withKit(document, kit), {
      meters: document.site.meters.map((meter) => (meter.id === id ? withoutEmpty({ ...meter, ...change }) : meter)),
    });
}

/** Take a meter away, with its CTs and readings. */
export function removeMeter(id: string): Edit {
  return (document) =>
    edited(document, {
      meters: document.site.meters.filter((meter) => meter.id !== id),
      cts: document.site.cts.filter((ct) => ct.plug?.meter !== id),
    });
}

/** Take the next free input of a meter into use, with its CT. Unchanged when the kit has no more. */
export function addInput(meterId: string, run: string, conductor: Conductor, role: SensingRole): Edit {
  return (document) => {
    const { site, kits } = document;
    const meter = site.meters.find((candidate) => candidate.id === meterId);
    const kit = kits.find((candidate) => candidate.id === meter?.kit);
    const n = meter && nextInput(meter, kit);
    if (!meter || n === undefined) return document;
    const input = newInput(site, meter, kit, { n, run, conductor, role });
    const whole = { ...meter, inputs: [...meter.inputs, input] };
    return edited(document, {
      meters: site.meters.map((candidate) => (candidate.id === meterId ? whole : candidate)),
      cts: [
        ...site.cts,
        {
          ...idealCt(whole, input),
          id: freeId(
            site.cts.map((ct) => ct.id),
            `ct-${meterId}-${n}`,
          ),
        },
      ],
    });
  };
}

/** The number of the input that comes next; undefined when the kit has no more. */
export function nextInput(meter: Meter, kit: Kit | undefined): number | undefined {
  const taken = new Set(meter.inputs.map((input) => input.n));
  if (kit?.metering) return kit.metering.inputs.map((input) => input.n).find((n) => !taken.has(n));
  for (let n = 1; n < 100; n++) if (!taken.has(n)) return n;
  return undefined;
}

/** How many inputs of a meter are not in use yet. */
export function freeInputs(meter: Meter, kit: Kit | undefined): number {
  return (kit?.metering?.inputs.length ?? Infinity) - meter.inputs.length;
}

/**
 * Measure several runs of one input with a CT each instead of through one window: the input keeps the first, and a
 * further input of the same role takes each other. Unchanged when the kit has not enough inputs.
 *
 * For example: An input on East and West roof becomes input 1 on East roof and input 3 on West roof.
 */
export function separateClamps(meterId: string, n: number, runs: readonly string[]): Edit {
  return (document) => {
    const meter = document.site.meters.find((candidate) => candidate.id === meterId);
    const input = meter?.inputs.find((candidate) => candidate.n === n);
    const [first, ...others] = runs;
    const conductor = input?.measures[0]?.conductor;
    if (!meter || !input || first === undefined || conductor === undefined) return document;
    if (
      freeInputs(
        meter,
        document.kits.find((kit) => kit.id === meter.kit),
      ) < others.length
    )
      return document;
    const kept = changeInput(meterId, n, { measures: [{ run: first, conductor }] })(document);
    return others.reduce((before, run) => addInput(meterId, run, conductor, input.role ?? "grid")(before), kept);
  };
}

/** Change what an input is meant to be. Its CT follows where it sat as planned. */
export function changeInput(meterId: string, n: number, change: Partial<Omit<MeterInput, "n">>, ctKit?: Kit): Edit {
  return (document) =>
    edited(withKit(document, ctKit), {
      meters: document.site.meters.map((meter) =>
        meter.id !== meterId
          ? meter
          : {
              ...meter,
              inputs: meter.inputs.map((input) => (input.n === n ? withoutEmpty({ ...input, ...change }) : input)),
            },
      ),
    });
}

/** Take one input of a meter away, with its CT and readings. */
export function removeInput(meterId: string, n: number): Edit {
  return (document) =>
    edited(document, {
      meters: document.site.meters.map((meter) =>
        meter.id === meterId ? { ...meter, inputs: meter.inputs.filter((input) => input.n !== n) } : meter,
      ),
    });
}

function newInput(
  site: Site,
  meter: Meter,
  kit: Kit | undefined,
  {
    n,
    run,
    conductor,
    role,
  }: { readonly n: number; readonly run: string; readonly conductor: Conductor; readonly role: SensingRole },
): MeterInput {
  const kitInput = kit?.metering?.inputs.find((candidate) => candidate.n === n);
  const input: MeterInput = {
    n,
    measures: [{ run, conductor }],
    tap: Object.entries(meter.taps).find(([, phase]) => phase === conductor)?.[0] ?? Object.keys(meter.taps)[0]!,
    arrow: kitInput?.arrow ?? "to-load",
    positive: kitInput?.positive ?? "to-load",
    primaryA: UNKNOWN_PRIMARY_A,
    secondary: kitInput?.secondary ?? { value: 0.333, unit: "V" },
    invert: false,
    role,
  };
  return { ...input, primaryA: advisedPrimaryA(site, input, kit, undefined) ?? UNKNOWN_PRIMARY_A };
}

function edited(document: JobDocument, change: Partial<Site>): JobDocument {
  return tidyPlan(document, { ...document, site: { ...document.site, ...change } });
}

function withKit(document: JobDocument, kit: Kit | undefined): JobDocument {
  if (!kit || document.kits.some((known) => known.id === kit.id)) return document;
  return { ...document, kits: [...document.kits, kit] };
}

/** An id from a name that is not taken: "Car charger" → "car-charger", then "car-charger-2". */
function freeId(taken: readonly string[], name: string): string {
  const base =
    name
      .normalize("NFKD")
      .replace(/\p{M}/gu, "")
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-+|-+$/g, "")
      .slice(0, 50) || "item";
  if (!taken.includes(base)) return base;
  for (let number = 2; ; number++) if (!taken.includes(`${base}-${number}`)) return `${base}-${number}`;
}
