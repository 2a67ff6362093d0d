import type { CellularSettings } from "@/core/plan/linkSchema";

const SECONDS_A_MONTH = 30 * 86_400;
/** Headers, handshakes and acknowledgements of one report over a secured connection. */
const OVERHEAD_BYTES = 900;

/**
 * Data that a cellular module sends in a month of 30 days, MB: (report + 900 bytes of headers) · reports.
 *
 * @example cellularMbAMonth({ reportBytes: 2000, intervalS: 300, planMb: 50 }) // 25.056
 */
export function cellularMbAMonth({
  reportBytes,
  intervalS,
}: Pick<CellularSettings, "reportBytes" | "intervalS">): number {
  return ((reportBytes + OVERHEAD_BYTES) * (SECONDS_A_MONTH / intervalS)) / 1e6;
}
