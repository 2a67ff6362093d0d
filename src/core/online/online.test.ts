import * as fc from "fast-check";
import { describe, expect, it } from "vitest";
import { CAUSE_IDS, causeOf, type CauseId } from "@/core/online/causes";
import { CHANCES, outcomeChances } from "@/core/online/chances";
import { checkOf, COMMON_CHECK_IDS, type CommonCheckId } from "@/core/online/checks";
import { findBreak } from "@/core/online/findBreak";
import { onlineRequestSchema, onlineResponseSchema, type OnlineQuestion } from "@/core/online/onlineSchema";
import { RUNG_IDS, rungHeight } from "@/core/online/rungs";
import { WAY_IDS, type OnlineWay } from "@/core/online/ways";

type Seen = Readonly<Partial<Record<CommonCheckId, string | number>>>;
interface Typical extends Omit<OnlineQuestion, "observed" | "way"> {
  readonly way: OnlineWay;
  readonly seen: Seen;
  readonly lamp?: string;
}

const LAMPS: OnlineQuestion["lamps"] = [
  { id: "amber-pairs", rung: "joined", state: "bad" },
  { id: "amber-triples", rung: "interface-up", state: "bad" },
  { id: "white-slow", rung: "joined", state: "waiting" },
  { id: "green", rung: "data-arrives", state: "good" },
];

/** What a technician finds, cause by cause. */
const TYPICAL: Readonly<Record<CauseId, readonly Typical[]>> = {
  "device-asleep": [{ way: "wifi", seen: { display: "dark", light: "none" } }],
  "no-power": [{ way: "cable", seen: { display: "dark", light: "some", "link-lamp": "dark" } }],
  "module-not-seated": [{ way: "wifi", seen: { "phone-sees-network": "yes", display: "E 12" }, lamp: "amber-triples" }],
  "aerial-missing": [
    { way: "cellular", seen: { sim: "found", registered: "searching", signal: -117 } },
    { way: "wifi", seen: { "phone-sees-network": "yes", signal: -91 } },
  ],
  "cable-fault": [{ way: "cable", seen: { "link-lamp": "dark", display: "run", "others-online": "yes" } }],
  "switch-port": [{ way: "cable", seen: { "link-lamp": "dark", display: "run", "others-online": "yes" } }],
  "out-of-reach": [{ way: "wifi", seen: { "phone-sees-network": "no", signal: -87 } }],
  "band-not-heard": [{ way: "wifi", seen: { "phone-sees-network": "yes", "phone-band": "5", address: "0.0.0.0" } }],
  "hidden-network": [{ way: "wifi", seen: { "phone-sees-network": "no", "phone-joins": "yes", signal: -55 } }],
  "security-mode": [
    { way: "wifi", changed: "router", seen: { "phone-joins": "yes", "phone-band": "2.4" }, lamp: "amber-pairs" },
  ],
  "wrong-network-name": [
    { way: "wifi", changed: "provider", seen: { "phone-sees-network": "no", "phone-joins": "yes", signal: -60 } },
  ],
  "wrong-passphrase": [
    { way: "wifi", seen: { "phone-sees-network": "yes", "phone-joins": "no", address: "169.254.9.1" } },
    { way: "wifi", changed: "passphrase", seen: { "phone-sees-network": "yes" }, lamp: "amber-pairs" },
  ],
  "no-dhcp": [
    { way: "cable", seen: { "link-lamp": "lit", address: "169.254.7.20" } },
    { way: "wifi", seen: { "phone-joins": "yes", "phone-internet": "no", address: "169.254.7.20" } },
  ],
  "address-conflict": [{ way: "cable", seen: { "link-lamp": "lit", address: "duplicate" } }],
  "static-address-wrong": [
    { way: "cable", changed: "router", subnet: "192.168.8.0/24", seen: { address: "192.168.7.40", gateway: "silent" } },
    { way: "cable", seen: { address: "192.168.7.40", gateway: "silent", "others-online": "yes" } },
  ],
  "own-subnet-overlap": [
    {
      way: "wifi",
      subnet: "192.168.150.0/24",
      accessPoint: "192.168.150.1",
      seen: { address: "192.168.150.40", gateway: "silent" },
    },
  ],
  "line-down": [{ way: "wifi", seen: { gateway: "answers", outside: "silent", "others-online": "no" } }],
  "login-page": [{ way: "wifi", seen: { address: "192.168.7.30", outside: "login-page" } }],
  "outbound-blocked": [
    { way: "cable", seen: { address: "192.168.7.30", outside: "answers", name: "resolves", "service-port": "silent" } },
  ],
  dns: [{ way: "cable", seen: { address: "192.168.7.30", outside: "answers", name: "fails" } }],
  "clock-wrong": [{ way: "cable", seen: { "service-port": "open", clock: 9_400_000 } }],
  "service-down": [{ way: "wifi", seen: { name: "resolves", "service-port": "refused", "others-online": "no" } }],
  "not-registered": [{ way: "wifi", seen: { address: "192.168.7.30", "service-flag": "unknown-device" } }],
  "other-account": [{ way: "cable", seen: { "service-flag": "other-account" } }],
  "firmware-needed": [{ way: "wifi", seen: { "service-flag": "needs-firmware", "minutes-since-power": 90 } }],
  "encryption-changed": [
    { way: "logger", changed: "firmware", seen: { "units-heard": "none", "service-flag": "online" } },
  ],
  "old-connection-kept": [
    {
      way: "wifi",
      changed: "router",
      seen: { address: "192.168.7.30", name: "resolves", "service-port": "open", "service-flag": "offline" },
    },
  ],
  "sim-missing": [{ way: "cellular", seen: { sim: "none", registered: "searching" } }],
  "sim-not-active": [{ way: "cellular", seen: { sim: "found", registered: "denied", signal: -80 } }],
  "sim-pin": [{ way: "cellular", seen: { sim: "pin" } }],
  "apn-wrong": [{ way: "cellular", seen: { registered: "home", outside: "silent", name: "fails" } }],
  "data-used-up": [{ way: "cellular", changed: "nothing", seen: { registered: "home", outside: "silent" } }],
  "no-coverage": [{ way: "cellular", seen: { sim: "found", registered: "searching", signal: -119 } }],
  "hub-not-sharing": [{ way: "hub", seen: { hub: "heard", "service-flag": "offline", "others-online": "yes" } }],
  "hub-lost": [{ way: "hub", seen: { hub: "lost", display: "run" } }],
  "line-noise": [{ way: "power-line", seen: { "units-heard": "some" } }],
  "wrong-circuit": [{ way: "power-line", seen: { "units-heard": "none", light: "some", display: "run" } }],
  "lamp-misread": [{ way: "wifi", seen: { "service-flag": "online", "phone-joins": "yes" }, lamp: "amber-pairs" }],
  "wait-longer": [
    { way: "wifi", seen: { "minutes-since-power": 2, address: "192.168.7.30" }, lamp: "white-slow" },
    { way: "cellular", changed: "firmware", seen: { "minutes-since-change": 3 } },
  ],
};

function questionOf({ seen, lamp, ...more }: Typical): OnlineQuestion {
  return {
    lamps: LAMPS,
    ...more,
    observed: [
      ...(lamp ? [{ check: "lamp" as const, outcome: lamp }] : []),
      ...Object.entries(seen).map(([check, outcome]) => ({ check: check as CommonCheckId, outcome })),
    ],
  };
}

const answer = (question: OnlineQuestion) => findBreak(onlineRequestSchema.parse(question));
const firstTwo = (question: OnlineQuestion) =>
  answer(question)
    .causes.slice(0, 2)
    .map(({ id }) => id);

describe("where the chain to the owner breaks", () => {
  it.each(CAUSE_IDS)("puts %s first or second after what it typically shows", (cause) => {
    for (const typical of TYPICAL[cause]) {
      const question = questionOf(typical);
      expect(firstTwo(question), JSON.stringify(typical)).toContain(cause);
      expect(answer(question).verdict).not.toBe("not-explained");
    }
  });

  it("answers the example of a changed router as a technician would", () => {
    const { rung, causes, wait, verdict } = answer({
      way: "wifi",
      bandsGhz: [2.4],
      lamps: [{ id: "amber-pairs", rung: "joined", state: "bad" }],
      changed: "router",
      observed: [
        { check: "lamp", outcome: "amber-pairs" },
        { check: "phone-sees-network", outcome: "yes" },
        { check: "phone-joins", outcome: "yes" },
        { check: "address", outcome: "169.254.7.20" },
      ],
    });
    expect([rung, causes[0]!.id, wait]).toEqual(["network-seen", "wrong-passphrase", null]);
    expect(causes[0]!.probability).toBeGreaterThan(0.6);
    expect(verdict).not.toBe("not-explained");
    expect(causes[0]!.why).toContain("no address");
  });

  it("never makes the right rung worse by something true, in whatever order it is seen", () => {
    fc.assert(
      fc.property(fc.constantFrom(...CAUSE_IDS), fc.nat(), fc.nat(), (cause, which, order) => {
        const typical = TYPICAL[cause][which % TYPICAL[cause].length]!;
        const whole = questionOf(typical);
        const observed = rotated(whole.observed!, order);
        const right = rungHeight(causeOf(cause).breaks) - 1;
        // Whoever only waits ends nowhere; a phone hears the network for a device that cannot.
        fc.pre(cause !== "wait-longer" && cause !== "aerial-missing" && cause !== "band-not-heard");
        let isRight = false;
        for (let count = 0; count <= observed.length; count++) {
          const height = rungHeight(answer({ ...whole, observed: observed.slice(0, count) }).rung);
          if (isRight) expect(height).toBe(right);
          isRight = height === right;
        }
        // In the end nothing is proved from where it breaks on.
        expect(rungHeight(answer(whole).rung)).toBeLessThanOrEqual(right);
      }),
      { numRuns: 150 },
    );
  });

  it("finds what is wrong from whatever the table would show, first or second in nine of ten", () => {
    const found = CAUSE_IDS.map((cause) => {
      const way = causeOf(cause).ways[0]!;
      const observed = COMMON_CHECK_IDS.filter((check) => checkOf(check).ways?.includes(way) ?? true).map((check) => ({
        check,
        outcome: typed(check, modal(cause, check), way),
      }));
      return firstTwo({ way, subnet: "192.168.7.0/24", observed }).includes(cause);
    });
    expect(found.filter(Boolean).length / found.length).toBeGreaterThanOrEqual(0.9);
  });

  it("says that nothing explains what cannot be, and names the two that exclude each other", () => {
    const odd: readonly Typical[] = [
      { way: "cellular", seen: { sim: "none", registered: "home" } },
      { way: "wifi", seen: { address: "169.254.1.2", "service-flag": "online" } },
      { way: "cable", seen: { "link-lamp": "dark", address: "192.168.7.3", gateway: "answers", name: "resolves" } },
      { way: "wifi", seen: { display: "dark", "phone-joins": "yes", "service-flag": "online" } },
      { way: "hub", seen: { hub: "lost", "units-heard": "all" } },
      { way: "cable", seen: { name: "fails", "service-port": "open" } },
      { way: "cellular", seen: { registered: "searching", outside: "answers", clock: 0 } },
    ];
    for (const typical of odd) {
      const { verdict, contradiction } = answer(questionOf(typical));
      expect(verdict, JSON.stringify(typical)).toBe("not-explained");
      expect(contradiction!.observed).toHaveLength(2);
      for (const { check } of contradiction!.observed) expect(Object.keys(typical.seen)).toContain(check);
    }
    const both = answer({
      way: "wifi",
      observed: [
        { check: "phone-internet", outcome: "yes" },
        { check: "phone-internet", outcome: "no" },
      ],
    });
    expect(both.verdict).toBe("not-explained");
  });

  it("says to wait while that is worth more than looking, and not when the time is over", () => {
    const after = (minutes: number) =>
      answer({ way: "wifi", lamps: LAMPS, observed: [{ check: "minutes-since-power", outcome: minutes }] }).wait;
    const fresh = answer({
      way: "wifi",
      lamps: LAMPS,
      waits: { contactMin: 12 },
      observed: [
        { check: "lamp", outcome: "white-slow" },
        { check: "minutes-since-power", outcome: 2 },
        { check: "address", outcome: "192.168.7.30" },
      ],
    });
    expect(fresh.wait?.minutes).toBe(10);
    expect(after(240)).toBeNull();
    expect(answer({ way: "wifi" }).wait).toBeNull();
  });

  it("starts again first where nothing changed", () => {
    expect(answer({ way: "wifi", changed: "nothing" }).restart).toContain("start the device again first");
    expect(answer({ way: "wifi", changed: "router" }).restart).toBeNull();
  });

  it("has a bit for every check that can still tell something, the best a minute first", () => {
    const { nextChecks } = answer({ way: "wifi", lamps: LAMPS, changed: "router" });
    expect(nextChecks.length).toBeGreaterThan(4);
    const rates = nextChecks.map(({ gainBits, minutes }) => gainBits / minutes);
    expect(rates).toEqual(rates.toSorted((a, b) => b - a));
    expect(nextChecks.map(({ check }) => check)).not.toContain("sim");
    const next = nextChecks[0]!.check;
    expect(nextChecks.some(({ check }) => check === "lamp")).toBe(true);
    const seen = answer({
      way: "wifi",
      changed: "router",
      observed: [{ check: "phone-sees-network", outcome: "no" }],
    }).nextChecks;
    expect(seen.map(({ check }) => check)).not.toContain("phone-sees-network");
    expect(next).toBeDefined();
  });

  it("gives sound chances, and an answer of its own form, whatever is seen", () => {
    const observation = fc.constantFrom(...COMMON_CHECK_IDS).chain((check) =>
      fc.constantFrom(...Object.keys(checkOf(check).outcomes)).map((outcome) => ({
        check,
        outcome: typed(check, outcome, "wifi"),
      })),
    );
    fc.assert(
      fc.property(fc.constantFrom(...WAY_IDS), fc.array(observation, { maxLength: 12 }), (way, observed) => {
        const told = onlineResponseSchema.parse(answer({ way, lamps: LAMPS, subnet: "192.168.7.0/24", observed }));
        const sum = told.causes.reduce((all, { probability }) => all + probability, 0);
        expect(sum).toBeLessThanOrEqual(1 + 1e-9);
        expect(told.causes.length).toBeGreaterThan(0);
        expect(told.nextChecks.every(({ gainBits }) => gainBits > 0)).toBe(true);
        expect(told.verdict === "not-explained").toBe(told.contradiction !== null);
      }),
      { numRuns: 120 },
    );
  });

  it("has a whole row for every check and cause, with each outcome's chance from 0 to 1", () => {
    for (const check of COMMON_CHECK_IDS) {
      const outcomes = Object.keys(checkOf(check).outcomes);
      for (const cause of CAUSE_IDS) {
        const row = outcomeChances(cause, check);
        expect(Object.keys(row).toSorted(), `${check}, ${cause}`).toEqual(outcomes.toSorted());
        expect(Object.values(row).every((chance) => chance > 0 && chance < 1)).toBe(true);
        expect(Object.values(row).reduce((sum, chance) => sum + chance, 0)).toBeLessThanOrEqual(1.001);
      }
      expect(CHANCES[check].reason).not.toBe("");
    }
  });

  it("refuses what is unknown, with its path", () => {
    const pathOf = (question: unknown) => onlineRequestSchema.safeParse(question).error?.issues[0]?.path;
    const seen = (check: string, outcome: unknown) => ({ way: "wifi", observed: [{ check, outcome }] });
    expect(pathOf(seen("horoscope", "good"))).toEqual(["observed", 0, "check"]);
    expect(pathOf(seen("hub", "maybe"))).toEqual(["observed", 0, "outcome"]);
    expect(pathOf(seen("address", "192.168.7.300"))).toEqual(["observed", 0, "outcome"]);
    expect(pathOf(seen("lamp", "violet"))).toEqual(["observed", 0, "outcome"]);
    expect(pathOf(seen("signal", 12))).toEqual(["observed", 0, "outcome"]);
    expect(pathOf({ way: "smoke" })).toEqual(["way"]);
    expect(pathOf({ way: "wifi", changed: "weather" })).toEqual(["changed"]);
    expect(pathOf(seen("signal", "-71"))).toBeUndefined();
    expect(onlineRequestSchema.parse({ way: "ethernet" }).way).toBe("cable");
  });

  it("knows its rungs in their order", () => {
    expect(RUNG_IDS.map(rungHeight)).toEqual(RUNG_IDS.map((_, at) => at));
    expect(rungHeight(null)).toBe(-1);
  });
});

function rotated<T>(items: readonly T[], by: number): readonly T[] {
  const at = items.length === 0 ? 0 : by % items.length;
  return [...items.slice(at), ...items.slice(0, at)];
}

/** The likeliest outcome of a check with a cause. */
function modal(cause: CauseId, check: CommonCheckId): string {
  return Object.entries(outcomeChances(cause, check)).toSorted((a, b) => b[1] - a[1])[0]![0];
}

/** What somebody would type so that it is that outcome. */
function typed(check: CommonCheckId, outcome: string, way: OnlineWay): string | number {
  const values: Readonly<Record<string, Readonly<Record<string, string | number>>>> = {
    address: { none: "169.254.3.4", ok: "192.168.7.30", "other-subnet": "192.168.9.30", duplicate: "duplicate" },
    clock: { right: 3, "a-little": 900, wrong: 90_000 },
    signal: way === "cellular" ? { good: -80, weak: -103, bad: -118 } : { good: -55, weak: -74, bad: -88 },
    "minutes-since-power": { short: 2, middle: 15, long: 90 },
    "minutes-since-change": { short: 2, middle: 15, long: 90 },
    display: { dark: "dark", text: "run" },
  };
  return values[check]?.[outcome] ?? outcome;
}
