import { ExportController } from "@/core/simulation/feedIn/exportController";
import { LaggingInverter } from "@/core/simulation/feedIn/laggingInverter";
import { microseconds } from "@/core/simulation/feedIn/late";
import { LateMeter } from "@/core/simulation/feedIn/lateMeter";
import type { ExportLimitRequest } from "@/core/simulation/exportLimitSchema";

const STEP_US = microseconds(50);

/** Who holds the export of a bench, by which meter, and how its inverters answer. */
export interface BenchLimiter extends Pick<ExportLimitRequest, "limit" | "meter" | "controller" | "inverters"> {
  /** The device that limits. */
  readonly device: string;
  /** The meter whose inputs of the grid it reads. */
  readonly gridMeter: string;
}

/** What the site does while time goes on. */
export interface HeldMoment {
  readonly lastsMs: number;
  /** What the sun gives each inverter, W, in their order. */
  readonly availableW: readonly number[];
  /** What the meter shows at each input of the grid, W importing, of what each inverter makes; linear in it. */
  readonly shownW: (madeW: readonly number[]) => readonly number[];
  /** Whether the meter answers. */
  readonly isHeard: boolean;
  /** A limit that was written into the device that limits, W; the plan's where nobody did. */
  readonly limitW?: number | undefined;
}

/**
 * The export limit of a bench as time goes on: the same controller, meter and inverters as the simulation of the limit,
 * fed by what the CTs show as they are fitted. Without a limit, everything is made that the sun gives.
 *
 * For example: 5 kW of sun, 1 kW of house and a limit of 3 kW: 4 kW are made after some seconds; when the meter is
 * silent for as long as the fail-safe waits, what the fallback lets through.
 */
export class HeldExport {
  readonly nodes: readonly string[];
  private readonly inverters: readonly LaggingInverter[];
  private readonly controller: ExportController;
  private meter: LateMeter | undefined;
  private readonly ratedW: number;
  private readonly plannedSetPointW: number;
  private readonly limiter: BenchLimiter;
  private us = 0;

  constructor(planned: BenchLimiter) {
    const limiter = { ...planned, controller: { ...planned.controller } };
    this.limiter = limiter;
    this.plannedSetPointW = planned.controller.setPointW;
    // Only the sums of the grid inputs are looked at: on which phase an inverter feeds is the site's to know.
    this.inverters = limiter.inverters.map((inverter) => new LaggingInverter({ ...inverter, phases: [] }, []));
    this.nodes = limiter.inverters.map(({ id }) => id);
    this.ratedW = limiter.inverters.reduce((sum, { ratedW }) => sum + ratedW, 0);
    this.controller = new ExportController(limiter, this.inverters, this.ratedW);
  }

  /** @returns What each inverter makes at the end, W, in their order. */
  step({ lastsMs, availableW, shownW, isHeard, limitW }: HeldMoment): readonly number[] {
    const changedW = limitW === undefined ? 0 : limitW - this.limiter.limit.powerW;
    this.limiter.controller.setPointW = Math.max(0, this.plannedSetPointW + changedW);
    this.inverters.forEach((inverter, at) => (inverter.availableW = Math.min(availableW[at]!, inverter.ratedW)));
    const grid = linear(
      shownW,
      this.inverters.map(({ outputW }) => outputW),
    );
    const meter = (this.meter ??= new LateMeter(this.limiter.meter, grid(this.madeW())));
    if (isHeard) meter.lostUs = undefined;
    else meter.lostUs ??= this.us;
    const untilUs = this.us + microseconds(lastsMs);
    while (this.us < untilUs) {
      const lastsUs = Math.min(STEP_US, untilUs - this.us);
      meter.at(this.us, grid(this.madeW()));
      this.controller.at(this.us, meter.seenW, isHeard);
      for (const inverter of this.inverters)
        inverter.step(this.us, lastsUs, this.commandW(inverter), meter.lostUs, true);
      this.us += lastsUs;
    }
    return this.madeW();
  }

  private madeW(): readonly number[] {
    return this.inverters.map(({ outputW }) => outputW);
  }

  private commandW({ ratedW }: LaggingInverter): number {
    return (this.controller.allowedW * ratedW) / this.ratedW;
  }
}

/** A linear function by its value at a point and its slopes, so that the site is not worked out at every step. */
function linear(shownW: HeldMoment["shownW"], atW: readonly number[]): (madeW: readonly number[]) => Float64Array {
  const here = shownW(atW);
  const slopes = atW.map((_, which) => {
    const moved = shownW(atW.map((watts, own) => (own === which ? watts + 1000 : watts)));
    return moved.map((watts, input) => (watts - here[input]!) / 1000);
  });
  return (madeW) =>
    Float64Array.from(here, (watts, input) =>
      madeW.reduce((sum, made, which) => sum + slopes[which]![input]! * (made - atW[which]!), watts),
    );
}
