import type { ReadableLine } from "@/core/live/readableLines";
import type { BenchLimiter } from "@/core/bench/heldExport";
import type { DeviceAct } from "@/core/bench/deviceActs";
import type { OnlineOnBench } from "@/core/bench/onlineOnBench";
import type { Bench, BenchChange, BenchRequest, BenchStatus } from "@/core/bench/benchSchema";
import type { KitKind } from "@/core/kits/kitSchema";
import type { Noise } from "@/core/flows/testSheetSchema";
import type { Site } from "@/core/site/planSchema";

/** All that the process of a bench has to know of a job. */
export interface BenchSpec {
  readonly id: string;
  readonly jobRevision: number;
  readonly site: Site;
  readonly request: BenchRequest;
  readonly noise: Noise;
  readonly limitW: number | undefined;
  readonly lines: readonly ReadableLine[];
  /** What each device is, by its id. */
  readonly kinds: Readonly<Record<string, KitKind>>;
  readonly online: readonly OnlineOnBench[];
  readonly subnet: string | undefined;
  readonly limiter: BenchLimiter | undefined;
  readonly acts: readonly DeviceAct[];
  readonly can: readonly {
    readonly link: string;
    readonly frames: readonly { readonly id: number; readonly bytes: number; readonly perSecond: number }[];
  }[];
}

/** What the app tells the process of a bench. */
export type ToBench =
  | { readonly kind: "start"; readonly spec: BenchSpec }
  | { readonly kind: "change"; readonly ask: number; readonly change: BenchChange }
  | { readonly kind: "status"; readonly ask: number };

/** What it answers. */
export type FromBench =
  | { readonly kind: "started"; readonly bench: Bench }
  | { readonly kind: "failed"; readonly message: string }
  | { readonly kind: "status"; readonly ask: number; readonly status: BenchStatus }
  | { readonly kind: "impossible"; readonly ask: number };
