import type { ServiceReason, VisitKind, VisitSettings } from "@/core/plan/visitSettings";
import type { StepTag } from "@/core/visit/visitStep";

/** The kinds of visit, in words. */
export const VISIT_KIND_WORDS: Readonly<Record<VisitKind, string>> = {
  "first-installation": "First installation",
  "device-added": "Device or meter added",
  exchange: "Exchange",
  service: "Service",
  extension: "Extension",
  inspection: "Inspection",
};

/** What is wrong, in words. */
export const SERVICE_REASON_WORDS: Readonly<Record<ServiceReason, string>> = {
  "reading-wrong": "a reading is wrong",
  "not-online": "not online",
  "router-changed": "router or passphrase changed",
};

/** What a visit may hold at all; which things its steps are about is worked out from the plan. */
export interface VisitRange {
  /** Whether a kind of step belongs to it. */
  readonly has: (tag: StepTag) => boolean;
  /** What is worked on: what is not there yet, the CTs that are there, or nothing. */
  readonly works: "new" | "clamps" | "nothing";
  /** Whether what is in the network is reached and brought online, there already or not. */
  readonly reaches: boolean;
}

/** Of a service visit of which nobody said what is wrong. */
const USUAL_REASON: ServiceReason = "not-online";
/** What only a visit to what is there already asks for: every other step is of an installation too. */
const OF_SERVICE: readonly StepTag[] = ["ask", "restart", "enter-network", "as-found", "compare"];
const ONLINE: readonly StepTag[] = ["signal", "cellular-level", "reach", "enter-network", "online", "compare"];

const only = (tags: readonly StepTag[], works: VisitRange["works"], reaches = false): VisitRange => ({
  has: (tag) => tags.includes(tag),
  works,
  reaches,
});
const FIRST: VisitRange = { has: (tag) => !OF_SERVICE.includes(tag), works: "new", reaches: false };
const ADDED: VisitRange = { ...FIRST, has: (tag) => FIRST.has(tag) || tag === "compare" };
const SERVICE: Readonly<Record<ServiceReason, VisitRange>> = {
  "reading-wrong": only(
    [
      "survey",
      "as-found",
      "isolate",
      "prove-dead",
      "clamp",
      "look-over",
      "clear",
      "restore",
      "restore-backup",
      "loads",
      "on-ac",
      "on-battery",
      "on-dc",
      "on",
      "reconnect",
      "prove",
      "compare",
      "covers",
    ],
    "clamps",
  ),
  "not-online": only(["ask", "restart", ...ONLINE], "nothing", true),
  "router-changed": only(ONLINE, "nothing", true),
};

/** What each kind of visit holds. A new kind is a line here. */
const KINDS: Readonly<Record<Exclude<VisitKind, "service">, VisitRange>> = {
  "first-installation": FIRST,
  "device-added": ADDED,
  exchange: ADDED,
  extension: ADDED,
  inspection: only(["survey", "as-found", "signal", "cellular-level", "compare"], "nothing", true),
};

/**
 * What a visit may hold. A service visit of which nobody said what is wrong begins as one that is not online: it opens
 * nothing.
 *
 * @example visitRange("service", "router-changed").works // "nothing"
 */
export function visitRange(kind: VisitKind, reason: ServiceReason | undefined): VisitRange {
  return kind === "service" ? SERVICE[reason ?? USUAL_REASON] : KINDS[kind];
}

/**
 * A visit in words.
 *
 * @example visitTitle({ kind: "service", reason: "router-changed" }) // "Service: router or passphrase changed"
 */
export function visitTitle({
  kind,
  reason,
}: {
  readonly kind: VisitKind;
  readonly reason?: ServiceReason | undefined;
}): string {
  return kind === "service"
    ? `${VISIT_KIND_WORDS.service}: ${SERVICE_REASON_WORDS[reason ?? USUAL_REASON]}`
    : VISIT_KIND_WORDS[kind];
}

/** The visits of a job by their ids, in words, with their number. */
export function visitNames({ earlier, ...now }: VisitSettings): ReadonlyMap<string, string> {
  return new Map([...earlier, now].map((visit, at) => [visit.id, `${at + 1}, ${visitTitle(visit)}`]));
}
