import { chainOf } from "@/core/chain/chainOf";
import { seenDevices } from "@/core/chain/seenDevices";
import type { Finding } from "@/core/findings";
import { given } from "@/core/given";
import { causeOf } from "@/core/online/causes";
import type { OnlineRecord } from "@/core/online/onlineRecords";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";
import { said, together } from "@/core/sentence";

/** A restart cures as a fault does not; from here on what was found is told. */
const TOLD_FROM = 0.7;

/**
 * What is wrong between the devices of a plan and their owner: a device without a way, and what was found to break it.
 *
 * For example: an inverter that must be seen and is in no network: "No way for Roof inverter to be seen".
 */
export function chainFindings(plan: ResolvedPlan, records: readonly OnlineRecord[]): readonly Finding[] {
  return seenDevices(plan).flatMap((seen): readonly Finding[] => {
    const { device } = seen;
    const common = {
      id: `online:${device.id}`,
      stage: "online" as const,
      subject: { kind: "link-device" as const, device: device.id },
    };
    // Findings know no clock: what depends on the minute is told on the page alone.
    const record = records.find(({ id }) => id === device.id);
    const answer = record && record.observed.length > 0 ? chainOf(seen, plan, records, 0).answer : undefined;
    const [top] = answer?.causes ?? [];
    return given<Finding>(
      seen.way === undefined && {
        ...common,
        code: "no-way-online",
        severity: "note",
        title: "No way to be seen",
        detail: said`${device.name} is in no network and on no hub: its owner does not see it.`,
        cure: "Join it under Wire: cable, Wi-Fi, a module or a hub",
        source: "Links of the plan",
      },
      top !== undefined &&
        record?.ownerSeesAt === undefined &&
        answer?.verdict === "cause-found" &&
        top.probability >= TOLD_FROM &&
        top.id !== "wait-longer" &&
        top.id !== "lamp-misread" && {
          ...common,
          code: "chain-broken",
          severity: "fix",
          title: causeOf(top.id).title,
          detail: together(said`${device.name}: ${Math.round(100 * top.probability)} % likely. `, top.why, "."),
          cure: top.cure[0]!,
          source: "What was seen, weighed by the table of causes",
        },
    );
  });
}

/**
 * How far the site is, in a few words.
 *
 * For example: "1 of 3 seen".
 */
export function chainState(plan: ResolvedPlan, records: readonly OnlineRecord[]): string {
  const seen = seenDevices(plan).filter(({ way }) => way !== undefined);
  if (seen.length === 0) return "nobody to see";
  const done = seen.filter(({ device }) => records.some(({ id, ownerSeesAt }) => id === device.id && ownerSeesAt));
  return `${done.length} of ${seen.length} seen`;
}
