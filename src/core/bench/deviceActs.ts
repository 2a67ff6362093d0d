import { predict } from "@/core/flows/predict";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { inputTag } from "@/core/site/inputTag";
import type { Site } from "@/core/site/planSchema";

/** Something that a device does for a while when somebody starts it at the device. */
export interface DeviceAct {
  readonly device: string;
  readonly name: string;
  readonly kind: "pairing" | "built-in-test";
  readonly lastsS: number;
  /** Of pairing: who it can find; a partner that always listens has no window of its own. */
  readonly partners: readonly { readonly device: string; readonly hasWindow: boolean }[];
  /** Of the test: whose inputs it looks at. */
  readonly meters: readonly string[];
}

/** How an act stands: never begun, under way, or how it ended. */
export interface ActStanding {
  readonly state: "idle" | "running" | "good" | "bad";
  readonly leftS: number;
  /** What its display says, line by line. */
  readonly says: readonly string[];
}

/** When each act was begun, in the bench's time, s; and which devices have found their partner. */
export interface ActMoments {
  readonly nowS: number;
  readonly begunS: ReadonlyMap<string, number>;
  readonly paired: ReadonlySet<string>;
}

/** What the test pushes through its CTs, and the least that it takes for something, W. */
const PUSHED_W = 1000;
const LEAST_W = 150;
const PAIRING_LINKS = ["radio", "power-line"] as const;

/**
 * What the devices of a plan do in time when they are asked to: open for pairing, and test their CTs by themselves.
 *
 * For example: two halves of a radio link: each with its window, and the other as its partner.
 */
export function deviceActs(plan: ResolvedPlan): readonly DeviceAct[] {
  return plan.joinable.flatMap(({ id, name, kit, meters, links }): readonly DeviceAct[] => {
    const base = { device: id, name, partners: [], meters: [] };
    const { pairingWindowS, builtInTestS } = kit.timers;
    const partners = links
      .filter(({ kind }) => PAIRING_LINKS.some((own) => own === kind))
      .flatMap(({ whole }) => whole ?? [])
      .filter(({ device }) => device.id !== id)
      .map(({ device }) => ({ device: device.id, hasWindow: device.kit.timers.pairingWindowS !== undefined }));
    return [
      ...(pairingWindowS !== undefined && partners.length > 0
        ? [{ ...base, kind: "pairing" as const, lastsS: pairingWindowS, partners }]
        : []),
      ...(builtInTestS !== undefined && meters.length > 0
        ? [{ ...base, kind: "built-in-test" as const, lastsS: builtInTestS, meters: meters.map((own) => own.id) }]
        : []),
    ];
  });
}

/**
 * An act by its device and kind.
 *
 * @example actKey({ device: "hub", kind: "pairing" }) // "hub pairing"
 */
export function actKey({ device, kind }: Pick<DeviceAct, "device" | "kind">): string {
  return `${device} ${kind}`;
}

/**
 * Who has found whom, at a moment: two whose windows are open at once, or one whose partner always listens.
 *
 * For example: opened at 0 s for 90 s, the other at 60 s: both, from 60 s on.
 */
export function newlyPaired(acts: readonly DeviceAct[], moments: Omit<ActMoments, "paired">): readonly string[] {
  const isOpen = (device: string) =>
    acts.some((act) => act.kind === "pairing" && act.device === device && leftS(act, moments) > 0);
  return acts
    .filter((act) => act.kind === "pairing" && leftS(act, moments) > 0)
    .flatMap(({ device, partners }) => {
      const found = partners.find((own) => !own.hasWindow || isOpen(own.device));
      return found ? [device, found.device] : [];
    });
}

/**
 * How an act stands: how long it still takes, and how it ended.
 *
 * For example: a window that was open for its 90 s and found nobody: bad, "nobody answered".
 *
 * @param site With the CTs as they are fitted on the bench.
 */
export function actStanding(act: DeviceAct, moments: ActMoments, site: Site): ActStanding {
  if (act.kind === "pairing" && moments.paired.has(act.device))
    return { state: "good", leftS: 0, says: ["It has found its partner"] };
  if (!moments.begunS.has(actKey(act))) return { state: "idle", leftS: 0, says: [] };
  const left = leftS(act, moments);
  if (left > 0) {
    const says = act.kind === "pairing" ? "It looks for its partner" : "It tests its CTs: touch nothing until it ends";
    return { state: "running", leftS: left, says: [says] };
  }
  if (act.kind === "pairing")
    return { state: "bad", leftS: 0, says: ["Nobody answered: open the other one while this one is open"] };
  const lines = act.meters.flatMap((meter) => testLines(site, meter, act.device));
  const isGood = lines.length > 0 && lines.every(({ isRight }) => isRight);
  return {
    state: isGood ? "good" : "bad",
    leftS: 0,
    says: lines.length === 0 ? ["Its inputs see nothing of what it makes"] : lines.map(({ says }) => says),
  };
}

function leftS(act: DeviceAct, { nowS, begunS }: Pick<ActMoments, "nowS" | "begunS">): number {
  const begun = begunS.get(actKey(act));
  return begun === undefined ? 0 : Math.max(0, begun + act.lastsS - nowS);
}

/** It draws a known power and looks what each of its inputs shows of it; of those that see none it says nothing. */
function testLines(site: Site, meterId: string, node: string) {
  const devices = [{ node, powerW: PUSHED_W, reactiveVar: 0 }];
  if (!site.nodes.some(({ id }) => id === node)) return [];
  const [planned, fitted] = (["planned", "fitted"] as const).map((as) => predict(site, as, { devices }).inputs);
  return site.meters
    .filter(({ id }) => id === meterId)
    .flatMap(({ inputs }) => inputs)
    .flatMap(({ n }) => {
      const of = (all: typeof planned) =>
        all?.find(({ meter, input }) => meter === meterId && input === n)?.powerW ?? 0;
      const [wantedW, shownW] = [of(planned), of(fitted)];
      if (Math.abs(wantedW) < LEAST_W) return [];
      const tag = inputTag(site, meterId, n);
      if (Math.abs(shownW) < LEAST_W) return [{ isRight: false, says: `${tag} shows nothing` }];
      return Math.sign(shownW) === Math.sign(wantedW)
        ? [{ isRight: true, says: `${tag} is right` }]
        : [{ isRight: false, says: `${tag} is the wrong way round` }];
    });
}
