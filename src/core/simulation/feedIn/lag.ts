/**
 * The exact share of the way that a first-order lag goes in one step: 1 − e^(−Δt/τ).
 *
 * @example lagShare(0, 20) // 1
 */
export function lagShare(tauMs: number, stepMs: number): number {
  return tauMs <= 0 ? 1 : 1 - Math.exp(-stepMs / tauMs);
}
