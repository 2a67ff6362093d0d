import type { ExportLimitRequest } from "@/core/simulation/exportLimitSchema";
import { microseconds, Ticker } from "@/core/simulation/feedIn/late";
import type { LaggingInverter } from "@/core/simulation/feedIn/laggingInverter";

/** The controller of the limit in time: from what it believes of the grid, what all inverters together may make. */
export class ExportController {
  /** What all inverters together may make, W. */
  allowedW: number;
  private readonly acting: Ticker;
  private readonly gain: number;
  private readonly isIntegral: boolean;
  private readonly isOnSum: boolean;

  constructor(
    private readonly request: Pick<ExportLimitRequest, "controller" | "limit" | "meter">,
    private readonly inverters: readonly LaggingInverter[],
    private readonly ratedW: number,
  ) {
    const { controller, limit } = request;
    this.allowedW = ratedW;
    this.acting = new Ticker(microseconds(controller.periodMs));
    this.gain = (controller.gainPerS * controller.periodMs) / 1000;
    this.isIntegral = controller.kind === "integral";
    this.isOnSum = limit.basis === "sum";
  }

  /** At rest under the loads of before: where the sun could make more than the limit lets out, it is held back. */
  settle(loadW: Float64Array): void {
    const restW = this.restingW(loadW);
    const couldW = this.inverters.reduce((sum, { availableW, ratedW }) => sum + Math.min(availableW, ratedW), 0);
    if (restW < couldW) this.allowedW = restW;
  }

  /** @param isHeard Whether its meter is; without it everything stays as it was. */
  at(us: number, seenW: Float64Array, isHeard: boolean): void {
    if (!this.acting.due(us) || !isHeard) return;
    const { controller } = this.request;
    let sumW = 0;
    let worstW = -Infinity;
    for (let phase = 0; phase < seenW.length; phase++) {
      sumW -= seenW[phase]!;
      worstW = Math.max(worstW, -seenW[phase]!);
    }
    const errorW = this.isOnSum ? controller.setPointW - sumW : (controller.setPointW - worstW) * seenW.length;
    if (Math.abs(errorW) <= controller.deadBandW) return;
    // A share of the gap from where the inverters are, or more and more of it for as long as it lasts.
    const fromW = this.isIntegral ? this.allowedW : this.inverters.reduce((made, { outputW }) => made + outputW, 0);
    const nextW = fromW + (this.isIntegral ? this.gain : Math.min(1, this.gain)) * errorW;
    this.allowedW = Math.min(this.ratedW, Math.max(0, nextW));
  }

  /** What the inverters make with the limit at rest, W. */
  private restingW(loadW: Float64Array): number {
    const { controller, meter } = this.request;
    const shownW = controller.setPointW / (1 + meter.errorPct / 100);
    const availableW = this.inverters.reduce(
      (sum, inverter) => sum + Math.min(inverter.availableW, inverter.ratedW),
      0,
    );
    const needW = this.isOnSum
      ? loadW.reduce((sum, watts) => sum + watts, 0) + shownW
      : (Math.min(...loadW) + shownW) * loadW.length;
    return Math.max(0, Math.min(availableW, needW));
  }
}
