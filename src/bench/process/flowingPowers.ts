import type { BenchSpec } from "@/bench/message";
import { HeldExport } from "@/core/bench/heldExport";
import { predict } from "@/core/flows/predict";
import type { DeviceState } from "@/core/flows/stateSchema";
import { readingTowardLoadW } from "@/core/site/flowWords";
import type { Site } from "@/core/site/planSchema";

/** What a bench's export limit goes by. */
interface Moment {
  /** The site as it is fitted. */
  readonly site: Site;
  /** What the sun and the sliders ask for. */
  readonly asked: readonly DeviceState[];
  readonly lastsMs: number;
  readonly isMeterHeard: boolean;
  readonly limitW: number | undefined;
}

/** What flows on a bench: as asked, but for inverters that hold a limit, which make no more than it lets out. */
export class FlowingPowers {
  readonly gridMeter: string | undefined;
  readonly limitsAt: string | undefined;
  private readonly held: HeldExport | undefined;
  private madeW: readonly number[] = [];

  constructor({ limiter }: Pick<BenchSpec, "limiter">) {
    this.held = limiter && new HeldExport(limiter);
    this.gridMeter = limiter?.gridMeter;
    this.limitsAt = limiter?.device;
  }

  step({ site, asked, lastsMs, isMeterHeard, limitW }: Moment): void {
    const { held } = this;
    if (!held) return;
    this.madeW = held.step({
      lastsMs,
      availableW: held.nodes.map((node) => {
        const own = asked.find((device) => device.node === node);
        return own && isHeldBack(own) ? -own.powerW : 0;
      }),
      shownW: (madeW) => gridInputsW(site, this.gridMeter, this.with(asked, madeW)),
      isHeard: isMeterHeard,
      limitW,
    });
  }

  /** What flows when this is asked for. */
  now(asked: readonly DeviceState[]): readonly DeviceState[] {
    return this.held ? this.with(asked, this.madeW) : asked;
  }

  private with(asked: readonly DeviceState[], madeW: readonly number[]): readonly DeviceState[] {
    return asked.map((own) => {
      const which = this.held?.nodes.indexOf(own.node) ?? -1;
      return which >= 0 && isHeldBack(own) ? { ...own, powerW: -(madeW[which] ?? 0) } : own;
    });
  }
}

/** What draws, or was given phase by phase, is as it was asked for. */
function isHeldBack({ powerW, perPhase }: DeviceState): boolean {
  return powerW < 0 && perPhase === undefined;
}

/** What the inputs of the grid show, W importing. */
function gridInputsW(site: Site, meter: string | undefined, devices: readonly DeviceState[]): readonly number[] {
  const inputs = site.meters.find(({ id }) => id === meter)?.inputs.filter(({ role }) => role === "grid") ?? [];
  const shown = predict(site, "fitted", { devices: [...devices] }).inputs;
  return inputs.map(({ n, positive }) => {
    const own = shown.find((reading) => reading.meter === meter && reading.input === n);
    return readingTowardLoadW(positive, own?.powerW ?? 0);
  });
}
