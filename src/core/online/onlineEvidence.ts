import { ipv4Number, isInside, parsedSubnet } from "@/core/ipv4";
import { CAUSE_IDS, causeOf, type CauseId } from "@/core/online/causes";
import { CHANCES, LAMP_BEST, lampChance, outcomeChances } from "@/core/online/chances";
import { checkOf, type CheckId, type CommonCheckId } from "@/core/online/checks";
import type { Observed, OnlineRequest } from "@/core/online/onlineSchema";
import { rungHeight, rungName } from "@/core/online/rungs";
import type { OnlineWay } from "@/core/online/ways";

const LINK_LOCAL = parsedSubnet("169.254.0.0/16")!;
const CLOCK_RIGHT_S = 120;
const CLOCK_A_LITTLE_S = 3600;
/** Good from here on and weak from here on, dBm. */
const CELLULAR_DBM = { good: -95, weak: -110 };
const WIFI_DBM = { good: -70, weak: -78 };
/** Until so many times the usual wait it may still be on its way. */
const WHILE_FACTOR = 3;

/** Something that was seen, as it bears on every cause. */
export interface OnlineEvidence {
  readonly observed: Observed;
  readonly check: CheckId;
  /** Which of the check's outcomes it is; of a lamp, its pattern. */
  readonly outcome: string;
  /** As part of a sentence. */
  readonly words: string;
  /** Its chance with each cause, in the order of the causes. */
  readonly chances: readonly number[];
  /** What its chance is at most, with any cause. */
  readonly best: number;
  /** Which cause's chance is taken where there are two. */
  readonly ofPair: (a: number, b: number) => number;
}

/**
 * What was seen, each with its chance under every cause.
 *
 * For example: an address 169.254.7.20 is the outcome `none` of the check `address`.
 */
export function onlineEvidence(request: OnlineRequest): readonly OnlineEvidence[] {
  return request.observed.map((observed) => {
    if (observed.check === "lamp") return lampEvidence(observed, request);
    const outcome = outcomeClass(observed.check, observed.outcome, request);
    return { ...commonEvidence(observed.check, outcome, request), observed };
  });
}

/** A check's outcome as evidence, seen or only thought of. */
export function commonEvidence(
  check: CommonCheckId,
  outcome: string,
  { subnet }: Pick<OnlineRequest, "subnet">,
): Omit<OnlineEvidence, "observed"> {
  // While nobody knows the site's network, an address of another one looks like any.
  const isAnyAddress = check === "address" && outcome === "ok" && subnet === undefined;
  const chances = CAUSE_IDS.map((cause) => {
    const row = outcomeChances(cause, check);
    return (row[outcome] ?? 0) + (isAnyAddress ? row["other-subnet"]! : 0);
  });
  return {
    check,
    outcome,
    words: checkOf(check).outcomes[outcome] ?? outcome,
    chances,
    best: Math.max(...chances),
    ofPair: pairRule(check, chances),
  };
}

function lampEvidence(observed: Observed, { lamps }: OnlineRequest): OnlineEvidence {
  const pattern = lamps.find(({ id }) => id === observed.outcome)!;
  const chances = CAUSE_IDS.map((cause) => lampChance(cause, pattern));
  const state = pattern.state === "good" ? "good" : pattern.state === "bad" ? "not good" : "waited for";
  return {
    observed,
    check: "lamp",
    outcome: pattern.id,
    words: `the lamp says ${rungName(pattern.rung).toLowerCase()}: ${state}`,
    chances,
    best: LAMP_BEST,
    ofPair: (a, b) => chances[lampRuler(a, b)]!,
  };
}

/** A misread lamp shows anything; else the chain ends at the lower break. */
export function lampRuler(a: number, b: number): number {
  const misread = CAUSE_IDS.indexOf("lamp-misread");
  return a === misread || b === misread ? misread : lowerOf(a, b);
}

/** Along the chain only the lower break is seen; else whichever of the two shows in it, or both by halves. */
function pairRule(check: CommonCheckId, chances: readonly number[]): OnlineEvidence["ofPair"] {
  const { usual, isAlongChain } = CHANCES[check];
  if (isAlongChain) return (a, b) => chances[lowerOf(a, b)]!;
  const shows = CAUSE_IDS.map((cause) => outcomeChances(cause, check) !== usual);
  return (a, b) => (shows[a] === shows[b] ? (chances[a]! + chances[b]!) / 2 : shows[a] ? chances[a]! : chances[b]!);
}

function lowerOf(a: number, b: number): number {
  return heightOf(CAUSE_IDS[b]!) < heightOf(CAUSE_IDS[a]!) ? b : a;
}

function heightOf(cause: CauseId): number {
  return rungHeight(causeOf(cause).breaks);
}

/** Which outcome of a check something is that was typed. */
export function outcomeClass(
  check: CommonCheckId,
  outcome: Observed["outcome"],
  { way, subnet, waits }: Pick<OnlineRequest, "way" | "subnet" | "waits">,
): string {
  switch (check) {
    case "display":
      return outcome === "dark" ? "dark" : "text";
    case "address":
      return addressClass(String(outcome), subnet);
    case "clock": {
      const off = Math.abs(Number(outcome));
      return off <= CLOCK_RIGHT_S ? "right" : off <= CLOCK_A_LITTLE_S ? "a-little" : "wrong";
    }
    case "signal":
      return signalClass(Number(outcome), way);
    case "minutes-since-power":
    case "minutes-since-change": {
      const minutes = Number(outcome);
      return minutes < waits.contactMin ? "short" : minutes < WHILE_FACTOR * waits.contactMin ? "middle" : "long";
    }
    default:
      return String(outcome);
  }
}

function signalClass(dbm: number, way: OnlineWay): string {
  const { good, weak } = way === "cellular" ? CELLULAR_DBM : WIFI_DBM;
  return dbm >= good ? "good" : dbm >= weak ? "weak" : "bad";
}

function addressClass(address: string, subnetText: string | undefined): string {
  if (address === "duplicate") return "duplicate";
  const number = ipv4Number(address)!;
  if (number === 0 || isInside(number, LINK_LOCAL)) return "none";
  const subnet = subnetText === undefined ? undefined : parsedSubnet(subnetText);
  return subnet && !isInside(number, subnet) ? "other-subnet" : "ok";
}
