import { CAUSE_IDS } from "@/core/online/causes";
import type { OnlineEvidence } from "@/core/online/onlineEvidence";
import type { OnlineRequest } from "@/core/online/onlineSchema";
import { RUNG_IDS, rungHeight, type Rung } from "@/core/online/rungs";
import { causeShares, type CauseHypothesis } from "@/core/online/weigh";

/** From here on a lamp is not believed. */
const MISREAD_FROM = 0.5;

/** Replies from behind the device's place in the network, and the rung that each proves. */
const REPLIES: readonly { readonly check: string; readonly good: string; readonly rung: Rung }[] = [
  { check: "gateway", good: "answers", rung: "gateway" },
  { check: "outside", good: "answers", rung: "internet" },
  { check: "name", good: "resolves", rung: "name-and-clock" },
  { check: "service-port", good: "open", rung: "service-reached" },
];

/**
 * The highest rung that what was seen proves; null where nothing does. Lamps, addresses, the service and what the phone
 * sees prove each a rung; replies, asked from the device's place, prove theirs as far as they come without a gap.
 * What is seen around the device counts no further than to where the device itself is seen to end.
 *
 * For example: the phone sees the network at the device, which has no address: "network-seen".
 */
export function rungProved(
  { way, lamps }: OnlineRequest,
  evidence: readonly OnlineEvidence[],
  hypotheses: readonly CauseHypothesis[],
): Rung | null {
  const shares = causeShares(hypotheses);
  const isLampBelieved = shares[CAUSE_IDS.indexOf("lamp-misread")]! < MISREAD_FROM;
  const shown = (check: string, ...outcomes: readonly string[]) =>
    evidence.some((own) => own.check === check && outcomes.includes(own.outcome));
  const patterns = evidence.flatMap(({ check, outcome }) =>
    check === "lamp" ? (lamps.find(({ id }) => id === outcome) ?? []) : [],
  );
  const proved: (Rung | false)[] = [
    shown("display", "text") && "powered",
    patterns.length > 0 && isLampBelieved && "powered",
    // A cable has nothing to join by: with its link it is in the network.
    shown("link-lamp", "lit") && (way === "cable" ? "joined" : "interface-up"),
    shown("sim", "found") && "interface-up",
    way === "cellular" && shown("signal", "good") && "network-seen",
    shown("registered", "home", "roaming") && "joined",
    shown("hub", "heard") && "joined",
    shown("units-heard", "all") && "joined",
    shown("address", "ok") && "address",
    shown("service-flag", "other-account", "needs-firmware") && "service-reached",
    shown("service-flag", "online") && "data-arrives",
    ...(isLampBelieved ? patterns.map(({ rung, state }) => state === "good" && rung) : []),
  ];
  const own = Math.max(-1, ...proved.map((rung) => (rung === false ? -1 : rungHeight(rung))));
  const seenThere = way === "wifi" && shown("phone-sees-network", "yes") ? rungHeight("network-seen") : -1;
  const around = Math.max(seenThere, replies(evidence));
  const ends = [
    shown("display", "dark") && "powered",
    shown("link-lamp", "dark") && "interface-up",
    shown("sim", "none", "pin") && "interface-up",
    shown("address", "none") && "joined",
    shown("hub", "lost") && "joined",
    shown("clock", "wrong") && "name-and-clock",
    ...(isLampBelieved ? patterns.map(({ rung, state }) => state !== "good" && rung) : []),
  ].flatMap((rung) => (rung === false ? [] : rungHeight(rung as Rung)));
  return RUNG_IDS[Math.max(own, Math.min(around, Math.min(...ends) - 1))] ?? null;
}

/** As far as replies come; what was not asked is taken from what lies behind it, what failed ends it. */
function replies(evidence: readonly OnlineEvidence[]): number {
  let height = -1;
  for (const { check, good, rung } of REPLIES) {
    const asked = evidence.filter((own) => own.check === check);
    if (asked.some(({ outcome }) => outcome !== good)) break;
    if (asked.length > 0) height = rungHeight(rung);
  }
  return height;
}
