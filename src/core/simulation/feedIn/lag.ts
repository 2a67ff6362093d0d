/**
 * The exact share of the way that a first-order lag goes in a time: 1 − e^(−Δt/τ).
 *
 * @example lagShare(0, 20) // 1
 */
export function lagShare(tauMs: number, lastsMs: number): number {
  return tauMs <= 0 ? 1 : 1 - Math.exp(-lastsMs / tauMs);
}

/** `lagShare` of one lag, kept for the time that was asked last: nearly all of them last a whole step. */
export class LagShare {
  private lastsUs = -1;
  private share = 1;

  constructor(private readonly tauMs: number) {}

  of(lastsUs: number): number {
    if (lastsUs !== this.lastsUs) {
      this.lastsUs = lastsUs;
      this.share = lagShare(this.tauMs, lastsUs / 1000);
    }
    return this.share;
  }
}
