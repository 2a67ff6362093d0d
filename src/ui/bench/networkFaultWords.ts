import type { NetworkFault } from "@/core/bench/networkFault";
import type { BenchStatus } from "@/core/bench/benchSchema";

const CLOCK_OFF_S = 864_000;

/** What can be wrong between the devices of this bench and their owner. */
export function networkFaults({ online }: Pick<BenchStatus, "online">): readonly NetworkFault[] {
  if (online.length === 0) return [];
  return [
    { kind: "gateway-off" },
    { kind: "line-down" },
    { kind: "login-page" },
    { kind: "names-fail" },
    { kind: "service-blocked" },
    ...online.flatMap(({ device }): NetworkFault[] => [
      { kind: "no-power", device },
      { kind: "passphrase-wrong", device },
      { kind: "no-address", device },
      { kind: "clock-off", device, seconds: CLOCK_OFF_S },
      { kind: "not-registered", device },
      { kind: "other-account", device },
    ]),
  ];
}

/** A fault of the way online in words. */
export function networkFaultWords(fault: NetworkFault, { online }: Pick<BenchStatus, "online">): string {
  const where = "device" in fault ? (online.find(({ device }) => device === fault.device)?.name ?? fault.device) : "";
  switch (fault.kind) {
    case "gateway-off":
      return "The router is off";
    case "line-down":
      return "The internet line is down";
    case "login-page":
      return "The network wants a log-in on a page";
    case "names-fail":
      return "Names are not resolved";
    case "service-blocked":
      return "The service’s port is blocked";
    case "no-power":
      return `${where} has no power`;
    case "passphrase-wrong":
      return `${where}: the passphrase is wrong`;
    case "no-address":
      return `${where} gets no address`;
    case "clock-off":
      return `${where}: its clock is ${Math.round(Math.abs(fault.seconds) / 86_400)} days off`;
    case "not-registered":
      return `${where} is not registered`;
    case "other-account":
      return `${where} is in another account`;
  }
}
