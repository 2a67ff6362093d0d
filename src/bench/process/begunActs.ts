import { actKey, actStanding, newlyPaired, type ActStanding, type DeviceAct } from "@/core/bench/deviceActs";
import type { Site } from "@/core/site/planSchema";

const MS_PER_S = 1000;

/** What was begun at the devices of a bench, as its time goes on. */
export class BegunActs {
  private nowS = 0;
  private readonly begunS = new Map<string, number>();
  private readonly paired = new Set<string>();

  constructor(readonly acts: readonly DeviceAct[]) {}

  /** Begin an act now, anew where it ran before. */
  begin(asked: Pick<DeviceAct, "device" | "kind">): void {
    this.begunS.set(actKey(asked), this.nowS);
    if (asked.kind === "pairing") this.paired.delete(asked.device);
    this.look();
  }

  /** Let time go on, the bench's. */
  step(benchMs: number): void {
    this.nowS += benchMs / MS_PER_S;
    this.look();
  }

  standing(act: DeviceAct, site: Site): ActStanding {
    return actStanding(act, { nowS: this.nowS, begunS: this.begunS, paired: this.paired }, site);
  }

  private look(): void {
    for (const device of newlyPaired(this.acts, { nowS: this.nowS, begunS: this.begunS })) this.paired.add(device);
  }
}
