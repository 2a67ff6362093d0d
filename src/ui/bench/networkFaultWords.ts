import type { NetworkFault } from "@/core/bench/networkFault";
import type { BenchStatus } from "@/core/bench/benchSchema";
import { BENCH_WORDS } from "@/ui/words/benchWords";

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
      return BENCH_WORDS.theRouterIsOff;
    case "line-down":
      return BENCH_WORDS.theInternetLineIsDown;
    case "login-page":
      return BENCH_WORDS.theNetworkWantsALogInOnAPage;
    case "names-fail":
      return BENCH_WORDS.namesAreNotResolved;
    case "service-blocked":
      return BENCH_WORDS.theServicesPortIsBlocked;
    case "no-power":
      return BENCH_WORDS.hasNoPower(where);
    case "passphrase-wrong":
      return BENCH_WORDS.thePassphraseIsWrong(where);
    case "no-address":
      return BENCH_WORDS.getsNoAddress(where);
    case "clock-off":
      return BENCH_WORDS.itsClockIsDaysOff(where, Math.round(Math.abs(fault.seconds) / 86_400));
    case "not-registered":
      return BENCH_WORDS.isNotRegistered(where);
    case "other-account":
      return BENCH_WORDS.isInAnotherAccount(where);
  }
}
