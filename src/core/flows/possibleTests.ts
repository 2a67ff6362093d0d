import type { TestProblem } from "@/core/flows/testProblem";
import type { KnownDevice } from "@/core/flows/testSheetSchema";
import type { NodeKind, SiteNode } from "@/core/site/planSchema";
import type { Phase } from "@/core/phase";
import { phasesOfSupply } from "@/core/site/phasors";
import { phasesOf } from "@/core/site/tree";

/** A usual test load: a kettle or fan heater. */
const USUAL_LOAD_W = 2000;
const USUAL_DEVICE_W = 3000;
/** How well the power of a load is known from its nameplate, and of an inverter from its own display. */
const LOAD_TOLERANCE = 0.05;
const INVERTER_TOLERANCE = 0.03;
/** A share of the rating that an inverter can usually be brought to on an ordinary day. */
const ORDINARY_SHARE = 0.6;

/** A step that the site allows, with what would be on in it. */
export interface PossibleTest {
  readonly label: string;
  readonly node: string | null;
  readonly phase: Phase | null;
  readonly powerW: number;
  readonly devices: readonly KnownDevice[];
  /** A known load that is no node of the plan: more power in a column of the background. */
  readonly extra?: { readonly column: number; readonly powerW: number; readonly toleranceW: number };
}

/**
 * A way to run one kind of device at a known power: a word for it, and the factor on its rating (sign: load
 * convention).
 */
interface Mode {
  readonly words: string;
  readonly factor: number;
}

const MODES: Readonly<Partial<Record<NodeKind, readonly Mode[]>>> = {
  "pv-inverter": [{ words: "generating", factor: -ORDINARY_SHARE }],
  "battery-inverter": [
    { words: "charging", factor: ORDINARY_SHARE },
    { words: "discharging", factor: -ORDINARY_SHARE },
  ],
  "hybrid-inverter": [
    { words: "generating", factor: -ORDINARY_SHARE },
    { words: "charging", factor: ORDINARY_SHARE },
  ],
  generator: [{ words: "generating", factor: -ORDINARY_SHARE }],
  diverter: [{ words: "on", factor: 1 }],
  "ev-charger": [{ words: "on", factor: 1 }],
  "heat-pump": [{ words: "on", factor: 1 }],
  "test-load": [{ words: "on", factor: 1 }],
};

const SOURCE_KINDS: ReadonlySet<NodeKind> = new Set([
  "pv-inverter",
  "battery-inverter",
  "hybrid-inverter",
  "generator",
]);

/**
 * Every test that a site allows, each from rest (all PV and battery off, no known load on): rest itself, every
 * device at a known power, a usual load on each phase that has no test load of its own; and, where the last
 * step has a source running, that step with the source off.
 */
export function possibleTests(problem: TestProblem): readonly PossibleTest[] {
  const { nodes } = problem.site;
  const rest = nodes.filter((node) => SOURCE_KINDS.has(node.kind)).map((node) => known(node.id, 0, 0));
  const atRest =
    rest.length > 0 ? "Isolate every source and switch nothing else" : "Switch nothing, only the background";
  return [
    { label: atRest, node: null, phase: null, powerW: 0, devices: rest },
    ...nodes.flatMap((node) => (MODES[node.kind] ?? []).map((mode) => deviceTest(node, mode, rest))),
    ...usualLoads(problem, rest),
    ...sourcesOff(problem),
  ];
}

function deviceTest(node: SiteNode, mode: Mode, rest: readonly KnownDevice[]): PossibleTest {
  const isSource = SOURCE_KINDS.has(node.kind);
  const ratedW = node.ratedW ?? (node.kind === "test-load" ? USUAL_LOAD_W : USUAL_DEVICE_W);
  const powerW = Math.round(ratedW * mode.factor);
  const toleranceW = Math.abs(powerW) * (isSource ? INVERTER_TOLERANCE : LOAD_TOLERANCE);
  const others = rest.filter((device) => device.node !== node.id);
  const phase = node.phases?.length === 1 ? node.phases[0]! : null;
  const where = phase ? ` (${phase})` : "";
  const label = isSource
    ? `Run ${node.name} ${mode.words} at a known power, other sources off`
    : `Switch on ${node.name}${where}, ${others.length > 0 ? "PV and battery off" : "nothing else"}`;
  return { label, node: node.id, phase, powerW, devices: [...others, known(node.id, powerW, toleranceW)] };
}

function usualLoads(problem: TestProblem, rest: readonly KnownDevice[]): readonly PossibleTest[] {
  const { site, background, responses } = problem;
  const covered = new Set(
    site.nodes.flatMap((node) => (node.kind === "test-load" && node.phases?.length === 1 ? node.phases : [])),
  );
  return phasesOfSupply(site.supply)
    .filter((phase) => !covered.has(phase))
    .flatMap((phase): PossibleTest[] => {
      // Somewhere among the background loads is a socket on this phase; the nearest to the board stands for it.
      const column = background
        .flatMap((load) => responses.columnsOf.get(load.node) ?? [])
        .find((candidate) => responses.columns[candidate]?.phase === phase);
      if (column === undefined) return [];
      return [
        {
          label: `Switch a known load on ${phase}${rest.length > 0 ? ", PV and battery off" : ""}`,
          node: null,
          phase,
          powerW: USUAL_LOAD_W,
          devices: rest,
          extra: { column, powerW: USUAL_LOAD_W, toleranceW: USUAL_LOAD_W * LOAD_TOLERANCE },
        },
      ];
    });
}

function sourcesOff({ site, sheet }: TestProblem): readonly PossibleTest[] {
  const last = sheet.steps.at(-1);
  if (!last) return [];
  const running = site.nodes.filter(
    (node) =>
      SOURCE_KINDS.has(node.kind) && last.devices.some((device) => device.node === node.id && device.powerW !== 0),
  );
  // With a single source running and nothing else on, this is the rest above.
  if (last.devices.filter((device) => device.powerW !== 0).length < 2) return [];
  return running.map((node) => ({
    label: `Isolate ${node.name}, leave the rest as in the last step`,
    node: node.id,
    phase: phasesOf(node, site).length === 1 ? phasesOf(node, site)[0]! : null,
    powerW: 0,
    devices: last.devices.map((device) => (device.node === node.id ? known(node.id, 0, 0) : device)),
  }));
}

function known(node: string, powerW: number, toleranceW: number): KnownDevice {
  return { node, powerW, reactiveVar: 0, toleranceW };
}
