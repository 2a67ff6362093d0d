import type { ExportLimiter } from "@/core/control/exportLimiter";
import { USUAL_FALLBACK, USUAL_RESPONSE } from "@/core/control/exportLimiter";
import type { FallbackTest } from "@/core/plan/limitSettings";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";

/** A silence that is no longer a late answer, s: at least this, and so many usual rounds. */
const SILENT_S = 2;
const SILENT_ROUNDS = 3;
/** Within this of its fallback, of its rating and in W at least, an inverter is there. */
const NEAR_SHARE = 0.03;
const NEAR_LEAST_W = 50;
/** What a fail-safe may take longer than was set. */
const LATER_SHARE = 0.1;
const MS_PER_S = 1000;

/** What one inverter does without its meter, as planned. */
export interface FallbackOfInverter {
  readonly node: string;
  readonly name: string;
  readonly ratedW: number;
  readonly fallbackW: number;
  /** Set: after so many seconds without its meter. */
  readonly afterS: number;
  /** Then it has to be down, s: what was set and a tenth, and its ramp and lag. */
  readonly latestS: number;
}

/** A power that an inverter said of itself, W generating. */
export interface OwnSample {
  readonly device: string;
  readonly powerW: number;
  readonly atMs: number;
}

/** How far a test stands in which the meter is taken away. */
export type FallbackWatch =
  | { readonly kind: "heard"; readonly madeW: number }
  | { readonly kind: "silent"; readonly seconds: number; readonly madeW: number }
  | { readonly kind: "over"; readonly outcome: FallbackOutcome };

/** What a test of the fail-safe showed, W and s. */
export type FallbackOutcome = Pick<
  FallbackTest,
  "verdict" | "plannedS" | "latestS" | "fallbackW" | "beforeW" | "afterW" | "seconds"
>;

/**
 * What every inverter of a limit is to do when its meter is lost: what its kit says, else what is usual.
 *
 * For example: an inverter of 5 kW with a fail-safe of 30 s to 0 %: 0 W after 30 s, at the latest after 35 s.
 */
export function plannedFallback(
  { deviceById }: Pick<ResolvedPlan, "deviceById">,
  { inverters }: Pick<ExportLimiter, "inverters">,
): readonly FallbackOfInverter[] {
  return inverters.map(({ id, name, ratedW = 0 }) => {
    const form = deviceById.get(id)?.kit?.exportLimit;
    const { timeS, fallbackPct } = form?.failSafe ?? USUAL_FALLBACK;
    const { deadTimeMs, lagMs, rampPctPerS } = form?.response ?? USUAL_RESPONSE;
    const downS = deadTimeMs / MS_PER_S + (5 * lagMs) / MS_PER_S + (100 - fallbackPct) / rampPctPerS;
    return {
      node: id,
      name,
      ratedW,
      fallbackW: (fallbackPct / 100) * ratedW,
      afterS: timeS,
      latestS: Math.ceil(timeS * (1 + LATER_SHARE) + downS),
    };
  });
}

/**
 * The test of the fail-safe from what is read: the time from the meter's last answer until all inverters are at their
 * fallback. Where they made no more than that before, there is nothing to fall from, and it proves nothing.
 *
 * For example: heard last at 10.0 s, 3200 W until 39.5 s, 0 W from 41.0 s: falls back after 31 s.
 *
 * @param heardMs When the meter answered, oldest first.
 * @param samples What the inverters said of themselves, oldest first.
 * @param pulledMs When its plug was pulled, where Gormit does not read the meter itself.
 */
export function watchFallback(
  planned: readonly FallbackOfInverter[],
  heardMs: readonly number[],
  samples: readonly OwnSample[],
  pulledMs?: number,
): FallbackWatch {
  const madeW = madeAt(planned, samples, Infinity);
  const lastMs = pulledMs ?? lastHeard(heardMs, samples.at(-1)?.atMs ?? 0);
  if (lastMs === undefined) return { kind: "heard", madeW };
  const common = {
    plannedS: Math.max(...planned.map(({ afterS }) => afterS)),
    latestS: Math.max(...planned.map(({ latestS }) => latestS)),
    fallbackW: planned.reduce((sum, { fallbackW }) => sum + fallbackW, 0),
    beforeW: madeAt(planned, samples, lastMs),
    afterW: madeW,
  };
  const seconds = Math.max(0, ((samples.at(-1)?.atMs ?? lastMs) - lastMs) / MS_PER_S);
  if (common.beforeW <= common.fallbackW + nearW(planned))
    return { kind: "over", outcome: { ...common, verdict: "untested" } };
  const downMs = samples.find(({ atMs }) => atMs > lastMs && planned.every((own) => isDown(own, samples, atMs)))?.atMs;
  if (downMs !== undefined) {
    const tookS = (downMs - lastMs) / MS_PER_S;
    return { kind: "over", outcome: { ...common, seconds: tookS, verdict: verdictOf(tookS, common.latestS) } };
  }
  return seconds > 2 * common.latestS
    ? { kind: "over", outcome: { ...common, verdict: "stays" } }
    : { kind: "silent", seconds, madeW };
}

/**
 * The same from a watch and a display: seconds and powers as they were typed.
 *
 * For example: 3200 W before, 0 W after 31 s, of 30 s set: falls back.
 */
export function typedFallback(
  planned: readonly FallbackOfInverter[],
  { beforeW, afterW, seconds }: Required<Pick<FallbackOutcome, "beforeW" | "afterW" | "seconds">>,
): FallbackOutcome {
  const latestS = Math.max(...planned.map((own) => own.latestS));
  const fallbackW = planned.reduce((sum, own) => sum + own.fallbackW, 0);
  const plannedS = Math.max(...planned.map(({ afterS }) => afterS));
  const most = fallbackW + nearW(planned);
  const verdict = beforeW <= most ? "untested" : afterW > most ? "stays" : verdictOf(seconds, latestS);
  return { plannedS, latestS, fallbackW, beforeW, afterW, seconds, verdict };
}

function verdictOf(tookS: number, latestS: number): FallbackOutcome["verdict"] {
  return tookS <= latestS ? "falls-back" : "late";
}

function nearW(planned: readonly FallbackOfInverter[]): number {
  return planned.reduce((sum, { ratedW }) => sum + Math.max(NEAR_LEAST_W, NEAR_SHARE * ratedW), 0);
}

function isDown(own: FallbackOfInverter, samples: readonly OwnSample[], atMs: number): boolean {
  const said = samples.findLast((sample) => sample.device === own.node && sample.atMs <= atMs);
  return said !== undefined && said.powerW <= own.fallbackW + nearW([own]);
}

/** What all inverters made, as they said last before a moment, W. */
function madeAt(planned: readonly FallbackOfInverter[], samples: readonly OwnSample[], untilMs: number): number {
  return planned.reduce((sum, { node }) => {
    const said = samples.findLast(({ device, atMs }) => device === node && atMs <= untilMs);
    return sum + Math.max(0, said?.powerW ?? 0);
  }, 0);
}

/** When the meter answered last, if it is silent since; undefined while it is heard, or never was. */
function lastHeard(heardMs: readonly number[], nowMs: number): number | undefined {
  const last = heardMs.at(-1);
  if (last === undefined) return undefined;
  const rounds = heardMs
    .slice(1)
    .map((at, which) => at - heardMs[which]!)
    .filter((ms) => ms > 0)
    .toSorted((a, b) => a - b);
  const usualMs = rounds[Math.floor(rounds.length / 2)] ?? 0;
  return nowMs - last > Math.max(SILENT_S * MS_PER_S, SILENT_ROUNDS * usualMs) ? last : undefined;
}
