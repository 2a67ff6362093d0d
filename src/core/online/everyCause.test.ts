import { describe, expect, it } from "vitest";
import { causeOf, type CauseId } from "@/core/online/causes";
import { findBreak } from "@/core/online/findBreak";
import { IMPOSSIBLE } from "@/core/online/impossible";
import { onlineRequestSchema, type OnlineQuestion } from "@/core/online/onlineSchema";
import { rungHeight, type Rung } from "@/core/online/rungs";

interface Case {
  readonly what: string;
  readonly cause: CauseId;
  /** At least so far it is proved. */
  readonly proved: Rung | null;
  readonly ask: OnlineQuestion;
}

const seen = (observed: Readonly<Record<string, string | number>>): NonNullable<OnlineQuestion["observed"]> =>
  Object.entries(observed).map(([check, outcome]) => ({ check, outcome })) as NonNullable<OnlineQuestion["observed"]>;

/** Visits as they happen, with more than one thing seen and not always the telling one first. */
const CASES: readonly Case[] = [
  {
    what: "an inverter in the evening",
    cause: "device-asleep",
    proved: null,
    ask: { way: "wifi", observed: seen({ "others-online": "yes", light: "none", display: "dark" }) },
  },
  {
    what: "a gateway whose outlet is off",
    cause: "no-power",
    proved: null,
    ask: { way: "power-line", observed: seen({ light: "some", display: "dark", "units-heard": "none" }) },
  },
  {
    what: "a module that did not click in",
    cause: "module-not-seated",
    proved: "powered",
    ask: {
      way: "wifi",
      changed: "device",
      lamps: [{ id: "no-module", rung: "interface-up", state: "bad" }],
      observed: seen({ lamp: "no-module", "phone-sees-network": "yes", "phone-joins": "yes" }),
    },
  },
  {
    what: "an aerial left in the box",
    cause: "aerial-missing",
    proved: "interface-up",
    ask: {
      way: "cellular",
      changed: "device",
      observed: seen({ sim: "found", signal: -121, registered: "searching" }),
    },
  },
  {
    what: "a plug that was made on site",
    cause: "cable-fault",
    proved: "powered",
    ask: { way: "cable", observed: seen({ display: "NET DOWN", "link-lamp": "dark", "phone-internet": "yes" }) },
  },
  {
    what: "a socket that is switched off, after a new router",
    cause: "switch-port",
    proved: "powered",
    ask: { way: "cable", changed: "router", observed: seen({ display: "run", "link-lamp": "dark" }) },
  },
  {
    what: "a garage at the end of the garden",
    cause: "out-of-reach",
    proved: null,
    ask: { way: "wifi", observed: seen({ signal: -84, "phone-sees-network": "no", "phone-internet": "yes" }) },
  },
  {
    what: "one name on both bands",
    cause: "band-not-heard",
    proved: "network-seen",
    ask: {
      way: "wifi",
      changed: "router",
      bandsGhz: [2.4],
      observed: seen({ "phone-sees-network": "yes", "phone-band": "5", "phone-joins": "yes" }),
    },
  },
  {
    what: "a network that is in no list, though the phone is in it",
    cause: "hidden-network",
    proved: null,
    ask: { way: "wifi", observed: seen({ "phone-sees-network": "no", signal: -48, "phone-joins": "yes" }) },
  },
  {
    what: "a router that takes WPA3 alone",
    cause: "security-mode",
    proved: "network-seen",
    ask: {
      way: "wifi",
      changed: "router",
      lamps: [{ id: "refused", rung: "joined", state: "bad" }],
      observed: seen({
        lamp: "refused",
        "phone-sees-network": "yes",
        "phone-band": "2.4",
        "phone-joins": "yes",
        signal: -52,
      }),
    },
  },
  {
    what: "the name of the old router",
    cause: "wrong-network-name",
    proved: null,
    ask: {
      way: "wifi",
      changed: "router",
      lamps: [{ id: "none-found", rung: "network-seen", state: "bad" }],
      observed: seen({ lamp: "none-found", signal: -55, "phone-band": "2.4" }),
    },
  },
  {
    what: "a passphrase typed by keys",
    cause: "wrong-passphrase",
    proved: "network-seen",
    ask: {
      way: "wifi",
      changed: "passphrase",
      lamps: [{ id: "refused", rung: "joined", state: "bad" }],
      observed: seen({ "phone-sees-network": "yes", lamp: "refused", signal: -60, address: "0.0.0.0" }),
    },
  },
  {
    what: "a router that hangs",
    cause: "no-dhcp",
    proved: "joined",
    ask: { way: "cable", observed: seen({ "link-lamp": "lit", "phone-internet": "no", address: "169.254.80.2" }) },
  },
  {
    what: "a fixed address inside the range of the router",
    cause: "address-conflict",
    proved: "joined",
    ask: { way: "cable", changed: "device", observed: seen({ "link-lamp": "lit", address: "duplicate" }) },
  },
  {
    what: "an address of the router before",
    cause: "static-address-wrong",
    proved: "joined",
    ask: {
      way: "cable",
      changed: "router",
      subnet: "192.168.8.0/24",
      observed: seen({ "link-lamp": "lit", address: "192.168.7.33", gateway: "silent", "others-online": "yes" }),
    },
  },
  {
    what: "an access point in the same addresses",
    cause: "own-subnet-overlap",
    proved: "address",
    ask: {
      way: "wifi",
      changed: "router",
      subnet: "192.168.151.0/24",
      accessPoint: "192.168.151.1",
      observed: seen({ address: "192.168.151.77", gateway: "silent", "phone-internet": "yes" }),
    },
  },
  {
    what: "a street without internet",
    cause: "line-down",
    proved: "gateway",
    ask: {
      way: "cable",
      observed: seen({ address: "192.168.7.30", gateway: "answers", outside: "silent", "phone-internet": "no" }),
    },
  },
  {
    what: "the guests' network of a hotel",
    cause: "login-page",
    proved: "gateway",
    ask: {
      way: "wifi",
      observed: seen({ address: "192.168.7.30", gateway: "answers", outside: "login-page", "phone-internet": "no" }),
    },
  },
  {
    what: "a firm's firewall",
    cause: "outbound-blocked",
    proved: "name-and-clock",
    ask: {
      way: "cable",
      observed: seen({
        address: "192.168.7.30",
        gateway: "answers",
        outside: "answers",
        name: "resolves",
        "service-port": "refused",
        "phone-internet": "yes",
      }),
    },
  },
  {
    what: "a name server that is gone",
    cause: "dns",
    proved: "internet",
    ask: {
      way: "cable",
      changed: "provider",
      observed: seen({ address: "192.168.7.30", gateway: "answers", outside: "answers", name: "fails" }),
    },
  },
  {
    what: "a clock that began in the past",
    cause: "clock-wrong",
    proved: "internet",
    ask: {
      way: "cable",
      changed: "device",
      observed: seen({ address: "192.168.7.30", gateway: "answers", outside: "answers", clock: -820_000_000 }),
    },
  },
  {
    what: "a service that is down for everybody",
    cause: "service-down",
    proved: "name-and-clock",
    ask: {
      way: "cable",
      changed: "nothing",
      observed: seen({
        address: "192.168.7.30",
        gateway: "answers",
        outside: "answers",
        name: "resolves",
        "service-port": "silent",
        "others-online": "no",
      }),
    },
  },
  {
    what: "an exchanged inverter",
    cause: "not-registered",
    proved: "address",
    ask: {
      way: "cable",
      changed: "device",
      observed: seen({ address: "192.168.7.30", "service-flag": "unknown-device", "minutes-since-power": 90 }),
    },
  },
  {
    what: "an installer who is gone",
    cause: "other-account",
    proved: "service-reached",
    ask: { way: "wifi", observed: seen({ "service-flag": "other-account", address: "192.168.7.30" }) },
  },
  {
    what: "a device that lay in store",
    cause: "firmware-needed",
    proved: "service-reached",
    ask: { way: "cable", changed: "device", observed: seen({ "service-flag": "needs-firmware", clock: 2 }) },
  },
  {
    what: "a reader that is shut out since the update",
    cause: "encryption-changed",
    proved: "data-arrives",
    ask: { way: "logger", changed: "firmware", observed: seen({ "service-flag": "online", "units-heard": "none" }) },
  },
  {
    what: "two ways in at once",
    cause: "old-connection-kept",
    proved: "service-reached",
    ask: {
      way: "cable",
      changed: "device",
      observed: seen({
        address: "192.168.7.30",
        gateway: "answers",
        outside: "answers",
        name: "resolves",
        "service-port": "open",
        "service-flag": "offline",
        "minutes-since-change": 300,
      }),
    },
  },
  {
    what: "an empty tray",
    cause: "sim-missing",
    proved: "powered",
    ask: { way: "cellular", observed: seen({ display: "no card", sim: "none" }) },
  },
  {
    what: "a card that was never switched on",
    cause: "sim-not-active",
    proved: "network-seen",
    ask: { way: "cellular", observed: seen({ sim: "found", signal: -84, registered: "denied" }) },
  },
  {
    what: "a card with its code",
    cause: "sim-pin",
    proved: "powered",
    ask: { way: "cellular", observed: seen({ display: "code?", sim: "pin", registered: "searching" }) },
  },
  {
    what: "an access-point name of another provider",
    cause: "apn-wrong",
    proved: "joined",
    ask: { way: "cellular", changed: "provider", observed: seen({ registered: "roaming", outside: "silent" }) },
  },
  {
    what: "a plan that is used up by the end of the month",
    cause: "data-used-up",
    proved: "joined",
    ask: { way: "cellular", changed: "nothing", observed: seen({ registered: "home", outside: "login-page" }) },
  },
  {
    what: "a valley",
    cause: "no-coverage",
    proved: "interface-up",
    ask: { way: "cellular", observed: seen({ sim: "found", signal: -124, registered: "searching" }) },
  },
  {
    what: "a hub that keeps its internet for itself",
    cause: "hub-not-sharing",
    proved: "joined",
    ask: { way: "hub", changed: "device", observed: seen({ hub: "heard", outside: "silent", "others-online": "yes" }) },
  },
  {
    what: "a hub that was exchanged",
    cause: "hub-lost",
    proved: "powered",
    ask: { way: "hub", changed: "device", observed: seen({ display: "run", hub: "lost", "units-heard": "none" }) },
  },
  {
    what: "a charger on the same circuit",
    cause: "line-noise",
    proved: "powered",
    ask: { way: "power-line", observed: seen({ display: "3 of 9", "units-heard": "some", light: "some" }) },
  },
  {
    what: "a gateway in the kitchen, units on another phase",
    cause: "wrong-circuit",
    proved: "powered",
    ask: {
      way: "power-line",
      observed: seen({ display: "0 of 9", "units-heard": "none", hub: "heard", light: "some" }),
    },
  },
  {
    what: "a green that was taken for orange",
    cause: "lamp-misread",
    proved: "data-arrives",
    ask: {
      way: "cable",
      lamps: [{ id: "no-service", rung: "service-reached", state: "bad" }],
      observed: seen({ lamp: "no-service", "service-flag": "online", address: "192.168.7.30" }),
    },
  },
  {
    what: "a device that was switched on a minute ago",
    cause: "wait-longer",
    proved: "address",
    ask: {
      way: "cable",
      lamps: [{ id: "waits", rung: "service-reached", state: "waiting" }],
      observed: seen({ "minutes-since-power": 1, lamp: "waits", address: "192.168.7.30" }),
    },
  },
];

describe("visits as they happen", () => {
  it.each(CASES.map((own) => [own.what, own] as const))("%s", (_, { cause, proved, ask }) => {
    const { causes, rung, verdict, breaksAt } = findBreak(onlineRequestSchema.parse(ask));
    expect(causes.slice(0, 2).map(({ id }) => id)).toContain(cause);
    expect(rungHeight(rung)).toBeGreaterThanOrEqual(rungHeight(proved));
    expect(verdict).not.toBe("not-explained");
    expect(breaksAt).toBe(causeOf(causes[0]!.id).breaks);
    expect(causes[0]!.cure.length).toBeGreaterThan(0);
  });

  it("has every cause among them", () => {
    expect(new Set(CASES.map(({ cause }) => cause)).size).toBe(39);
  });

  it("waits with the device that was switched on a minute ago, and not with the one of yesterday", () => {
    const fresh = CASES.find(({ cause }) => cause === "wait-longer")!.ask;
    expect(findBreak(onlineRequestSchema.parse(fresh)).wait).toMatchObject({ minutes: 9 });
    const old = { ...fresh, observed: seen({ "minutes-since-power": 1_500, lamp: "waits", address: "192.168.7.30" }) };
    expect(findBreak(onlineRequestSchema.parse(old)).wait).toBeNull();
  });
});

describe("what rules each other out", () => {
  it.each(IMPOSSIBLE.map((rule) => [`${rule.one.check} and ${rule.other.check}`, rule] as const))(
    "%s: nothing explains both, by any outcome of the rule, and says why",
    (_, { one, other, why }) => {
      for (const first of one.outcomes)
        for (const second of other.outcomes) {
          const observed = seen({ [one.check]: first, [other.check]: second }).map((own) =>
            own.check === "address" ? { ...own, outcome: "169.254.1.1" } : own,
          );
          const { verdict, contradiction } = findBreak(onlineRequestSchema.parse({ way: "wifi", observed }));
          expect(verdict).toBe("not-explained");
          expect(contradiction!.why).toContain(why);
          expect(contradiction!.observed).toEqual(observed);
        }
    },
  );
});
