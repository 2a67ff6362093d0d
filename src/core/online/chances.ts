import { causeOf, type CauseId } from "@/core/online/causes";
import type { CommonCheckId } from "@/core/online/checks";
import { rungHeight, type Rung } from "@/core/online/rungs";

/** The chance of each outcome. */
export type Chances = Readonly<Record<string, number>>;

/** What one check shows, by what is wrong. */
interface ChanceTable {
  /** With any other cause. */
  readonly usual: Chances;
  /** With a cause that breaks at this rung or below it, unless it is named: the check does not get that far. */
  readonly below?: { readonly rung: Rung; readonly chances: Chances };
  readonly with: Partial<Readonly<Record<CauseId, Chances>>>;
  /** Of two causes only the lower one is seen: the chain ends there. */
  readonly isAlongChain?: true;
  readonly reason: string;
}

const NEVER_IN: Chances = { none: 0.3, ok: 0.66, "other-subnet": 0.02, duplicate: 0.02 };
/** Without power nobody reads an address off it; what is left is what others say of it. */
const NOT_READABLE: Chances = { none: 0.3, ok: 0.05, "other-subnet": 0.01, duplicate: 0.01 };

/** The default table: what every check shows with every cause. A kit's lamps come beside it. */
export const CHANCES: Readonly<Record<CommonCheckId, ChanceTable>> = {
  display: {
    usual: { dark: 0.02, text: 0.98 },
    with: {
      "device-asleep": { dark: 0.92, text: 0.08 },
      "no-power": { dark: 0.97, text: 0.03 },
    },
    reason: "A dark display is a device that sleeps or has no power; hardly anything else darkens it",
  },
  light: {
    usual: { none: 0.12, some: 0.88 },
    with: { "device-asleep": { none: 0.96, some: 0.04 } },
    reason: "Work is mostly done by day",
  },
  "link-lamp": {
    usual: { lit: 0.98, dark: 0.02 },
    with: {
      "cable-fault": { lit: 0.12, dark: 0.88 },
      "switch-port": { lit: 0.15, dark: 0.85 },
      "no-power": { lit: 0.05, dark: 0.95 },
      "device-asleep": { lit: 0.2, dark: 0.8 },
      "module-not-seated": { lit: 0.3, dark: 0.7 },
      "hub-lost": { lit: 0.75, dark: 0.25 },
    },
    reason: "The lamp shows current on the pairs: it is dark for a cable, a socket or a side without power",
  },
  "phone-sees-network": {
    usual: { yes: 0.96, no: 0.04 },
    with: {
      "out-of-reach": { yes: 0.3, no: 0.7 },
      "hidden-network": { yes: 0.06, no: 0.94 },
      "wrong-network-name": { yes: 0.6, no: 0.4 },
    },
    reason: "A phone hears further than a device; a hidden name is in no list",
  },
  "phone-band": {
    usual: { "2.4": 0.6, "5": 0.4 },
    with: {
      "band-not-heard": { "2.4": 0.03, "5": 0.97 },
      // Where the phone hardly hears it, it is on the band that reaches further.
      "out-of-reach": { "2.4": 0.28, "5": 0.03 },
    },
    reason: "A phone takes either band; where it only finds 5 GHz, a 2.4 GHz device finds nothing",
  },
  "phone-joins": {
    usual: { yes: 0.92, no: 0.08 },
    with: {
      "wrong-passphrase": { yes: 0.5, no: 0.5 },
      "out-of-reach": { yes: 0.5, no: 0.5 },
      "hidden-network": { yes: 0.8, no: 0.2 },
      "wrong-network-name": { yes: 0.7, no: 0.3 },
      "security-mode": { yes: 0.96, no: 0.04 },
      "no-dhcp": { yes: 0.6, no: 0.4 },
    },
    reason: "Half of the wrong passphrases are wrong on the note, half were mistyped into the device",
  },
  "phone-internet": {
    usual: { yes: 0.97, no: 0.03 },
    with: {
      "line-down": { yes: 0.03, no: 0.97 },
      "login-page": { yes: 0.25, no: 0.75 },
      dns: { yes: 0.2, no: 0.8 },
      "no-dhcp": { yes: 0.35, no: 0.65 },
      "outbound-blocked": { yes: 0.88, no: 0.12 },
    },
    reason: "The phone shares all of the network with the device, from the router on",
  },
  "others-online": {
    usual: { yes: 0.92, no: 0.08 },
    with: {
      "line-down": { yes: 0.03, no: 0.97 },
      "login-page": { yes: 0.3, no: 0.7 },
      dns: { yes: 0.15, no: 0.85 },
      "no-dhcp": { yes: 0.5, no: 0.5 },
      "outbound-blocked": { yes: 0.45, no: 0.55 },
      "service-down": { yes: 0.06, no: 0.94 },
      "hub-lost": { yes: 0.45, no: 0.55 },
      "no-coverage": { yes: 0.6, no: 0.4 },
    },
    reason: "What stops all of them lies behind what they share",
  },
  address: {
    usual: { none: 0.01, ok: 0.976, "other-subnet": 0.01, duplicate: 0.004 },
    below: { rung: "joined", chances: { none: 0.88, ok: 0.08, "other-subnet": 0.02, duplicate: 0.02 } },
    with: {
      "no-dhcp": { none: 0.96, ok: 0.02, "other-subnet": 0.015, duplicate: 0.005 },
      "address-conflict": { none: 0.02, ok: 0.12, "other-subnet": 0.01, duplicate: 0.85 },
      "static-address-wrong": { none: 0.02, ok: 0.3, "other-subnet": 0.67, duplicate: 0.01 },
      "device-asleep": NOT_READABLE,
      "no-power": NOT_READABLE,
      "hub-lost": NEVER_IN,
      "line-noise": NEVER_IN,
      "wrong-circuit": NEVER_IN,
      "wait-longer": { none: 0.3, ok: 0.67, "other-subnet": 0.02, duplicate: 0.01 },
    },
    isAlongChain: true,
    reason: "Without joining there is no address; 169.254 and 0.0.0.0 are none",
  },
  gateway: {
    usual: { answers: 0.97, silent: 0.03 },
    below: { rung: "joined", chances: { answers: 0.6, silent: 0.4 } },
    with: {
      "no-dhcp": { answers: 0.4, silent: 0.6 },
      "address-conflict": { answers: 0.4, silent: 0.6 },
      "static-address-wrong": { answers: 0.15, silent: 0.85 },
      "own-subnet-overlap": { answers: 0.2, silent: 0.8 },
      "line-down": { answers: 0.9, silent: 0.1 },
      "wait-longer": { answers: 0.85, silent: 0.15 },
    },
    isAlongChain: true,
    reason: "Asked from the device's place it fails with the device; asked from a laptop beside it, it may answer",
  },
  outside: {
    usual: { answers: 0.955, silent: 0.04, "login-page": 0.005 },
    below: { rung: "gateway", chances: { answers: 0.42, silent: 0.56, "login-page": 0.02 } },
    with: {
      "line-down": { answers: 0.02, silent: 0.95, "login-page": 0.03 },
      "login-page": { answers: 0.04, silent: 0.06, "login-page": 0.9 },
      "outbound-blocked": { answers: 0.8, silent: 0.18, "login-page": 0.02 },
      "apn-wrong": { answers: 0.05, silent: 0.93, "login-page": 0.02 },
      "data-used-up": { answers: 0.05, silent: 0.75, "login-page": 0.2 },
      "hub-not-sharing": { answers: 0.2, silent: 0.78, "login-page": 0.02 },
      "sim-missing": { answers: 0.02, silent: 0.97, "login-page": 0.01 },
      "sim-pin": { answers: 0.02, silent: 0.97, "login-page": 0.01 },
      "sim-not-active": { answers: 0.02, silent: 0.95, "login-page": 0.03 },
      "no-coverage": { answers: 0.02, silent: 0.97, "login-page": 0.01 },
    },
    isAlongChain: true,
    reason: "Behind the gateway it is the line that answers or does not",
  },
  name: {
    usual: { resolves: 0.985, fails: 0.015 },
    below: { rung: "internet", chances: { resolves: 0.45, fails: 0.55 } },
    with: {
      dns: { resolves: 0.03, fails: 0.97 },
      "line-down": { resolves: 0.1, fails: 0.9 },
      "login-page": { resolves: 0.6, fails: 0.4 },
      "data-used-up": { resolves: 0.35, fails: 0.65 },
      "apn-wrong": { resolves: 0.05, fails: 0.95 },
    },
    isAlongChain: true,
    reason: "Without a line names mostly fail too; with a line it is the name server",
  },
  "service-port": {
    usual: { open: 0.96, refused: 0.015, silent: 0.025 },
    below: { rung: "name-and-clock", chances: { open: 0.42, refused: 0.03, silent: 0.55 } },
    with: {
      "outbound-blocked": { open: 0.02, refused: 0.4, silent: 0.58 },
      "service-down": { open: 0.2, refused: 0.4, silent: 0.4 },
      "line-down": { open: 0.02, refused: 0.03, silent: 0.95 },
      "clock-wrong": { open: 0.9, refused: 0.05, silent: 0.05 },
      "login-page": { open: 0.25, refused: 0.2, silent: 0.55 },
    },
    isAlongChain: true,
    reason: "A firewall refuses or swallows; a service that is down does either",
  },
  "service-flag": {
    usual: { online: 0.02, offline: 0.92, "unknown-device": 0.045, "other-account": 0.005, "needs-firmware": 0.01 },
    with: {
      "not-registered": {
        online: 0.01,
        offline: 0.07,
        "unknown-device": 0.9,
        "other-account": 0.01,
        "needs-firmware": 0.01,
      },
      "other-account": {
        online: 0.02,
        offline: 0.04,
        "unknown-device": 0.02,
        "other-account": 0.91,
        "needs-firmware": 0.01,
      },
      "firmware-needed": {
        online: 0.03,
        offline: 0.1,
        "unknown-device": 0.01,
        "other-account": 0.01,
        "needs-firmware": 0.85,
      },
      "encryption-changed": {
        online: 0.7,
        offline: 0.27,
        "unknown-device": 0.01,
        "other-account": 0.01,
        "needs-firmware": 0.01,
      },
      "old-connection-kept": {
        online: 0.15,
        offline: 0.82,
        "unknown-device": 0.01,
        "other-account": 0.01,
        "needs-firmware": 0.01,
      },
      "lamp-misread": {
        online: 0.93,
        offline: 0.04,
        "unknown-device": 0.01,
        "other-account": 0.01,
        "needs-firmware": 0.01,
      },
      "wait-longer": {
        online: 0.06,
        offline: 0.72,
        "unknown-device": 0.14,
        "other-account": 0.01,
        "needs-firmware": 0.07,
      },
    },
    reason: "The service says what it has of the device; without a connection, only that it is offline",
  },
  clock: {
    usual: { right: 0.95, "a-little": 0.04, wrong: 0.01 },
    with: { "clock-wrong": { right: 0.02, "a-little": 0.08, wrong: 0.9 } },
    reason: "A secured connection stands minutes, not hours",
  },
  signal: {
    usual: { good: 0.75, weak: 0.22, bad: 0.03 },
    with: {
      "out-of-reach": { good: 0.02, weak: 0.2, bad: 0.78 },
      "aerial-missing": { good: 0.05, weak: 0.2, bad: 0.75 },
      "no-coverage": { good: 0.02, weak: 0.1, bad: 0.88 },
      "hub-lost": { good: 0.4, weak: 0.3, bad: 0.3 },
    },
    reason: "Below about -78 dBm by Wi-Fi and -110 dBm in a mobile network connections fail",
  },
  sim: {
    usual: { none: 0.005, found: 0.987, pin: 0.008 },
    with: {
      "device-asleep": { none: 0.1, found: 0.05, pin: 0.01 },
      "no-power": { none: 0.1, found: 0.05, pin: 0.01 },
      "sim-missing": { none: 0.96, found: 0.03, pin: 0.01 },
      "sim-pin": { none: 0.02, found: 0.04, pin: 0.94 },
      "module-not-seated": { none: 0.6, found: 0.38, pin: 0.02 },
    },
    reason: "The modem reads the SIM before anything else",
  },
  registered: {
    usual: { home: 0.82, roaming: 0.12, denied: 0.02, searching: 0.04 },
    with: {
      "device-asleep": { home: 0.03, roaming: 0.01, denied: 0.01, searching: 0.05 },
      "no-power": { home: 0.03, roaming: 0.01, denied: 0.01, searching: 0.05 },
      "sim-not-active": { home: 0.03, roaming: 0.02, denied: 0.75, searching: 0.2 },
      "sim-missing": { home: 0.01, roaming: 0.01, denied: 0.23, searching: 0.75 },
      "sim-pin": { home: 0.01, roaming: 0.01, denied: 0.13, searching: 0.85 },
      "no-coverage": { home: 0.03, roaming: 0.02, denied: 0.03, searching: 0.92 },
      "aerial-missing": { home: 0.08, roaming: 0.03, denied: 0.04, searching: 0.85 },
      "module-not-seated": { home: 0.05, roaming: 0.02, denied: 0.13, searching: 0.8 },
      "wait-longer": { home: 0.45, roaming: 0.1, denied: 0.05, searching: 0.4 },
    },
    isAlongChain: true,
    reason: "A network that hears the SIM says yes or no; one that is not heard is searched for",
  },
  "units-heard": {
    usual: { all: 0.95, some: 0.04, none: 0.01 },
    with: {
      "line-noise": { all: 0.03, some: 0.72, none: 0.25 },
      "wrong-circuit": { all: 0.02, some: 0.33, none: 0.65 },
      "hub-lost": { all: 0.03, some: 0.17, none: 0.8 },
      "device-asleep": { all: 0.1, some: 0.2, none: 0.7 },
      "no-power": { all: 0.1, some: 0.2, none: 0.7 },
      "cable-fault": { all: 0.1, some: 0.3, none: 0.6 },
      "encryption-changed": { all: 0.1, some: 0.3, none: 0.6 },
      "out-of-reach": { all: 0.2, some: 0.4, none: 0.4 },
      "wait-longer": { all: 0.35, some: 0.4, none: 0.25 },
    },
    reason: "Noise takes some of them, a wrong phase mostly all",
  },
  hub: {
    usual: { heard: 0.98, lost: 0.02 },
    with: {
      "hub-lost": { heard: 0.03, lost: 0.97 },
      "out-of-reach": { heard: 0.4, lost: 0.6 },
      "no-power": { heard: 0.3, lost: 0.7 },
      "device-asleep": { heard: 0.3, lost: 0.7 },
      "cable-fault": { heard: 0.35, lost: 0.65 },
      "line-noise": { heard: 0.5, lost: 0.5 },
      "wrong-circuit": { heard: 0.4, lost: 0.6 },
    },
    reason: "What the hub does not hear cannot be passed on by it",
  },
  "minutes-since-power": {
    usual: { short: 0.25, middle: 0.35, long: 0.4 },
    with: { "wait-longer": { short: 0.85, middle: 0.13, long: 0.02 } },
    reason: "What waits was switched on only just; what is broken was so whenever one looks",
  },
  "minutes-since-change": {
    usual: { short: 0.3, middle: 0.35, long: 0.35 },
    with: { "wait-longer": { short: 0.85, middle: 0.13, long: 0.02 } },
    reason: "Shortly after a change nothing can be told yet",
  },
};

/** What a pattern of a lamp says: its rung is good, waited for or bad. */
export interface LampMeaning {
  readonly rung: Rung;
  readonly state: "good" | "waiting" | "bad";
}

const LAMP_REACHED = { good: 0.9, waiting: 0.06, bad: 0.04 } as const;
const LAMP_BROKEN_HERE = { good: 0.03, waiting: 0.35, bad: 0.78 } as const;
const LAMP_BROKEN_BELOW = { good: 0.03, waiting: 0.35, bad: 0.3 } as const;
/** What has no power shows nothing of what lies above. */
const LAMP_DARK = { good: 0.01, waiting: 0.05, bad: 0.05 } as const;
const LAMP_WAITS = { good: 0.35, waiting: 0.8, bad: 0.12 } as const;
const LAMP_MISREAD = { good: 0.3, waiting: 0.35, bad: 0.4 } as const;
/** The highest chance that any pattern has: what a perfect fit is measured against. */
export const LAMP_BEST = 0.9;

/**
 * The chances of a check's outcomes with a cause.
 *
 * For example: `outcomeChances("dns", "name").fails` is 0.97.
 */
export function outcomeChances(cause: CauseId, check: CommonCheckId): Chances {
  const { usual, below, with: named } = CHANCES[check];
  const own = named[cause];
  if (own) return own;
  return below && rungHeight(causeOf(cause).breaks) <= rungHeight(below.rung) ? below.chances : usual;
}

/**
 * The chance that a lamp shows a pattern with a cause, from what the pattern means: a rung below the break is good, the
 * one at the break bad or waited for, and those above it may show either.
 *
 * For example: with a wrong passphrase, a pattern that says "joined: bad" has 0.78.
 */
export function lampChance(cause: CauseId, { rung, state }: LampMeaning): number {
  if (cause === "lamp-misread") return LAMP_MISREAD[state];
  if (cause === "wait-longer") return LAMP_WAITS[state];
  const { breaks } = causeOf(cause);
  const above = rungHeight(rung) - rungHeight(breaks);
  if (breaks === "powered" && above > 0) return LAMP_DARK[state];
  return (above < 0 ? LAMP_REACHED : above === 0 ? LAMP_BROKEN_HERE : LAMP_BROKEN_BELOW)[state];
}
