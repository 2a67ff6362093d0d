import { lampPatterns } from "@/core/chain/lampPatterns";
import type { SeenDevice } from "@/core/chain/seenDevices";
import { findBreak } from "@/core/online/findBreak";
import type { OnlineRecord } from "@/core/online/onlineRecords";
import { onlineRequestSchema, outcomeProblem, type OnlineAnswer, type OnlineRequest } from "@/core/online/onlineSchema";
import { rungHeight, RUNGS, type Rung } from "@/core/online/rungs";
import type { Changed } from "@/core/online/ways";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";

/** Where the chain of one device stands. */
export interface Chain extends SeenDevice {
  readonly record: OnlineRecord;
  readonly request: OnlineRequest | undefined;
  /** Undefined where the plan has no way. */
  readonly answer: OnlineAnswer | undefined;
  /** The highest rung that is proved. */
  readonly proved: Rung | null;
  /** The first that is not; undefined where the owner sees it. */
  readonly missing: Rung | undefined;
  /** How long the rest may still take by itself, min. */
  readonly mayTakeMin: number;
}

const USUAL_CONTACT_MIN = 10;
const USUAL_FIRMWARE_MIN = 30;
const USUAL_DATA_MIN = 20;

/**
 * Where a device's chain to its owner stands: what was seen of it, weighed with its kit's lamps and waits.
 *
 * For example: nothing seen yet: no rung is proved, the first missing is "powered".
 *
 * @param nowMs What was noted as a number of minutes goes on with the time.
 * @param changedByVisit What changed by what the visit is for, where nobody said otherwise of the device.
 */
export function chainOf(
  seen: SeenDevice,
  { network }: Pick<ResolvedPlan, "network">,
  records: readonly OnlineRecord[],
  nowMs: number,
  changedByVisit?: Changed,
): Chain {
  const record = records.find(({ id }) => id === seen.device.id) ?? { id: seen.device.id, observed: [] };
  const { kit } = seen.device;
  const changed = record.changed ?? changedByVisit;
  const waits = {
    contactMin: kit.online?.contactMin ?? USUAL_CONTACT_MIN,
    firmwareMin: kit.online?.firmwareMin ?? USUAL_FIRMWARE_MIN,
  };
  const lamps = lampPatterns(kit).map(({ lamp: _, ...pattern }) => pattern);
  const request =
    seen.way &&
    onlineRequestSchema.parse({
      way: seen.way,
      bandsGhz: kit.network?.bandsGhz ?? [],
      lamps,
      ...(changed === undefined ? {} : { changed }),
      ...(network.subnet === undefined ? {} : { subnet: network.subnet }),
      ...(kit.network?.accessPoint && isWhole(kit.network.accessPoint.address)
        ? { accessPoint: kit.network.accessPoint.address }
        : {}),
      waits,
      // A kit that was changed since may not know a pattern any more.
      observed: record.observed
        .filter((own) => outcomeProblem(own, lamps) === undefined)
        .map(({ check, outcome, at }) => ({ check, outcome: sinceThen(check, outcome, at, nowMs) })),
    });
  const answer = request && findBreak(request);
  const proved = record.ownerSeesAt ? "owner-sees" : (answer?.rung ?? null);
  const missing = RUNGS[rungHeight(proved) + 1]?.id;
  return { ...seen, record, request, answer, proved, missing, mayTakeMin: mayTake(seen, proved) };
}

/**
 * The chains of all devices, the worst first: without a way, then by how little is proved.
 *
 * For example: a logger at "address" stands before an inverter at "service reached".
 */
export function worstFirst(chains: readonly Chain[]): readonly Chain[] {
  const rank = ({ way, proved }: Chain) => (way === undefined ? -2 : rungHeight(proved));
  return chains.toSorted((a, b) => rank(a) - rank(b));
}

function sinceThen(check: string, outcome: string | number, at: string, nowMs: number): string | number {
  if (check !== "minutes-since-power" && check !== "minutes-since-change") return outcome;
  return Math.max(0, Number(outcome) + (nowMs - Date.parse(at)) / 60_000);
}

function isWhole(address: string): boolean {
  return /^(\d{1,3}\.){3}\d{1,3}$/.test(address);
}

function mayTake({ device: { kit } }: SeenDevice, proved: Rung | null): number {
  const height = rungHeight(proved);
  if (height >= rungHeight("data-arrives")) return 0;
  const { joinMin = 3, contactMin = USUAL_CONTACT_MIN, firstDataMin = USUAL_DATA_MIN } = kit.online ?? {};
  if (height >= rungHeight("accepted")) return firstDataMin;
  return firstDataMin + contactMin + (height < rungHeight("joined") ? joinMin : 0);
}
