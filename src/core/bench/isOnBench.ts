import type { Bench } from "@/core/bench/benchSchema";
import type { LiveWay } from "@/core/live/liveSchema";

/**
 * Whether a link is read from a bench and not from the site: then what is read is marked as simulated.
 *
 * For example: Modbus TCP at the host and port of one of its lines: true.
 */
export function isOnBench(way: LiveWay, bench: Pick<Bench, "lines" | "mqtt"> | undefined): boolean {
  if (!bench || way.kind === "serial") return false;
  return [...bench.lines, bench.mqtt].some(({ host, port }) => host === way.host && port === way.port);
}
