import { isIpv4 } from "@/core/ipv4";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";

const LOOPBACK = /^127\./;
const PRIVATE = [/^10\./, /^192\.168\./, /^172\.(1[6-9]|2\d|3[01])\./, /^169\.254\./];

/**
 * Why an address may not be asked: only this machine (a converter or a bench on it), and private addresses that the
 * job's own links or network name. Undefined where it may. Names are looked up before, and every address of a name is
 * asked about.
 *
 * For example: 192.168.7.20 where the plan gives the meter 192.168.7.21: "192.168.7.20 is not in this job's plan …".
 */
export function targetProblem(address: string, plan: Pick<ResolvedPlan, "links" | "network">): string | undefined {
  if (address === "::1" || LOOPBACK.test(address)) return undefined;
  if (!isIpv4(address) || !PRIVATE.some((range) => range.test(address)))
    return `${address} is no private address: only this machine and the site's own network are asked`;
  const named = plan.links.flatMap(({ members }) => members.flatMap(({ ipv4 }) => (ipv4 ? [ipv4] : [])));
  if (named.includes(address) || plan.network.gateway === address) return undefined;
  return `${address} is not in this job's plan: give the device this address under Wire first`;
}
