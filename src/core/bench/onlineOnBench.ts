import type { NetworkFault } from "@/core/bench/networkFault";
import { lampPatterns, patternWords } from "@/core/chain/lampPatterns";
import { seenDevices } from "@/core/chain/seenDevices";
import type { Kit } from "@/core/kits/kitSchema";
import { RUNG_IDS, rungHeight, type Rung } from "@/core/online/rungs";
import type { ResolvedPlan } from "@/core/plan/resolvedPlan";

/** A device of a bench that its owner is to see: what its lamps say and how long it takes. */
export interface OnlineOnBench {
  readonly device: string;
  readonly name: string;
  readonly lamps: Kit["lamps"];
  readonly bootMin: number;
  readonly joinMin: number;
  readonly contactMin: number;
  readonly firstDataMin: number;
  readonly service: string | undefined;
  /** As the plan fixes it; else the router gives one. */
  readonly address: string | undefined;
}

/** The rung at which each fault ends the chain. */
const BREAKS: Readonly<Record<NetworkFault["kind"], Rung>> = {
  "no-power": "powered",
  "passphrase-wrong": "joined",
  "no-address": "address",
  "gateway-off": "gateway",
  "line-down": "internet",
  "login-page": "internet",
  "names-fail": "name-and-clock",
  "clock-off": "name-and-clock",
  "service-blocked": "service-reached",
  "not-registered": "accepted",
  "other-account": "accepted",
};
/** A clock that is off by less stands every secured connection. */
const CLOCK_STANDS_S = 600;
const USUAL_MIN = { boot: 1, join: 2, contact: 8, firstData: 15 };

/**
 * The devices of a plan that have a way online, as a bench simulates them.
 *
 * For example: an inverter by Wi-Fi: one, with the waits of its kit.
 */
export function onlineDevices(plan: ResolvedPlan): readonly OnlineOnBench[] {
  return seenDevices(plan)
    .filter(({ way }) => way !== undefined)
    .map(({ device: { id, name, kit }, link }) => ({
      device: id,
      name,
      lamps: kit.lamps,
      bootMin: kit.timers.bootS === undefined ? USUAL_MIN.boot : kit.timers.bootS / 60,
      joinMin: kit.online?.joinMin ?? USUAL_MIN.join,
      contactMin: kit.online?.contactMin ?? USUAL_MIN.contact,
      firstDataMin: kit.online?.firstDataMin ?? USUAL_MIN.firstData,
      service: kit.online?.service,
      address: link?.members.find(({ item }) => item === id)?.ipv4,
    }));
}

/**
 * The highest rung of a device on a bench: as far as no fault ends it, and as far as its time has come.
 *
 * For example: switched on long ago, the line down: "gateway".
 *
 * @param sinceMin Since it has power, in the bench's time.
 */
export function rungOnBench(own: OnlineOnBench, faults: readonly NetworkFault[], sinceMin: number): Rung | null {
  const ends = faults
    .filter((fault) => !("device" in fault) || fault.device === own.device)
    .filter((fault) => fault.kind !== "clock-off" || Math.abs(fault.seconds) > CLOCK_STANDS_S)
    .map(({ kind }) => rungHeight(BREAKS[kind]) - 1);
  const height = Math.min(rungHeight("data-arrives"), rungHeight(rungInTime(own, sinceMin)), ...ends);
  return RUNG_IDS[height] ?? null;
}

/**
 * What each lamp of a device shows while its chain has come so far: the highest good pattern, else what fails or waits
 * at the next rung. A lamp without a pattern for it is dark.
 *
 * For example: joined and without an address: "Net orange, blinks in groups, 4 times".
 */
export function lampsOnBench({ lamps }: OnlineOnBench, rung: Rung | null): readonly string[] {
  const height = rungHeight(rung);
  if (height < 0) return [...new Set(lamps.map(({ lamp }) => `${lamp} dark`))];
  const patterns = lampPatterns({ lamps });
  const names = [...new Set(patterns.map(({ lamp }) => lamp.lamp))];
  return names.map((name) => {
    const own = patterns.filter(({ lamp }) => lamp.lamp === name);
    const good = own
      .filter(({ state, rung: of }) => state === "good" && rungHeight(of) <= height)
      .toSorted((a, b) => rungHeight(b.rung) - rungHeight(a.rung))[0];
    const failing = own
      .filter(({ state, rung: of }) => state !== "good" && rungHeight(of) > height)
      .toSorted((a, b) => rungHeight(a.rung) - rungHeight(b.rung))[0];
    const shown = failing && rungHeight(failing.rung) === height + 1 ? failing : (good ?? failing);
    return shown ? `${name} ${patternWords(shown.lamp)}` : `${name} dark`;
  });
}

function rungInTime({ bootMin, joinMin, contactMin, firstDataMin }: OnlineOnBench, sinceMin: number): Rung {
  if (sinceMin < bootMin) return "powered";
  if (sinceMin < bootMin + joinMin) return "network-seen";
  if (sinceMin < Math.max(contactMin, bootMin + joinMin)) return "name-and-clock";
  if (sinceMin < contactMin + firstDataMin) return "accepted";
  return "data-arrives";
}
