import { benchLimiter } from "@/core/bench/benchLimiter";
import type { BenchLimiter } from "@/core/bench/heldExport";
import { deviceActs, type DeviceAct } from "@/core/bench/deviceActs";
import { onlineDevices, type OnlineOnBench } from "@/core/bench/onlineOnBench";
import { readableLines, type ReadableLine } from "@/core/live/readableLines";
import type { JobDocument } from "@/core/job/jobDocument";
import type { Kit, KitKind } from "@/core/kits/kitSchema";
import { resolve } from "@/core/plan/resolve";

/** What a bench is made of, of a job. */
export interface BenchOfJob {
  readonly lines: readonly ReadableLine[];
  readonly kinds: Readonly<Record<string, KitKind>>;
  /** Who is to be seen by the owner. */
  readonly online: readonly OnlineOnBench[];
  /** The site's network as the plan has it: 192.168.7.0/24. */
  readonly subnet: string | undefined;
  /** Who holds the export; undefined where nobody does. */
  readonly limiter: BenchLimiter | undefined;
  readonly acts: readonly DeviceAct[];
  readonly can: readonly { readonly link: string; readonly frames: NonNullable<Kit["can"]>["frames"] }[];
}

/**
 * The lines, devices and CAN links that a job's bench simulates.
 *
 * For example: a house with a meter on a line and a battery on CAN: one line with one unit, one CAN link.
 */
export function benchOfJob(document: JobDocument): BenchOfJob {
  const plan = resolve(document);
  const lines = readableLines(plan);
  const kitOf = (id: string) => document.kits.find((kit) => kit.id === id);
  return {
    lines,
    kinds: Object.fromEntries(
      lines.flatMap(({ units }) => units.map(({ device, kit }) => [device, kitOf(kit)?.kind ?? "meter"] as const)),
    ),
    online: onlineDevices(plan),
    subnet: plan.network.subnet,
    limiter: benchLimiter(plan),
    acts: deviceActs(plan),
    can: plan.links
      .filter(({ kind }) => kind === "can")
      .map(({ id, whole }) => ({
        link: id,
        frames: (whole ?? []).flatMap(({ device }) => device.kit.can?.frames ?? []),
      })),
  };
}
