import type { OnlineWay } from "@/core/online/ways";

const BY_AIR: readonly OnlineWay[] = ["wifi"];
const BY_ROUTER: readonly OnlineWay[] = ["cable", "wifi", "hub", "power-line", "logger"];
const NOT_ALONE: readonly OnlineWay[] = ["hub", "power-line", "logger"];

/** Something that can be looked at, and what it may show. */
export interface OnlineCheck {
  readonly question: string;
  /** How it is done. */
  readonly how: string;
  readonly minutes: number;
  /** By which ways it tells anything; by every way where left out. */
  readonly ways?: readonly OnlineWay[];
  /** What it may show, each as part of a sentence. */
  readonly outcomes: Readonly<Record<string, string>>;
  /** What is typed, where it is no choice; its outcomes are then classes. */
  readonly typed?: "address" | "number";
  readonly unit?: string;
  /** Gormit itself can look, from the site's network. */
  readonly byItself?: true;
}

/** Every check but the lamps, whose patterns are the kit's. */
export const CHECKS = {
  display: {
    question: "What does its display show?",
    how: "Press a key: many displays sleep",
    minutes: 0.5,
    outcomes: { dark: "its display is dark", text: "its display shows something" },
  },
  light: {
    question: "Is there light on the modules?",
    how: "Look up: full dark, or any daylight",
    minutes: 0.2,
    outcomes: { none: "there is no light on the modules", some: "there is light on the modules" },
  },
  "link-lamp": {
    question: "Is the lamp at the network socket lit?",
    how: "Look at both ends of the cable",
    minutes: 0.5,
    ways: ["cable", "hub", "logger"],
    outcomes: { lit: "the lamp at the socket is lit", dark: "the lamp at the socket is dark" },
  },
  "phone-sees-network": {
    question: "Does the phone see the network's name at the device?",
    how: "Hold the phone at the device, not at the router",
    minutes: 0.5,
    ways: BY_AIR,
    outcomes: { yes: "the phone sees the network at the device", no: "the phone does not see the network there" },
  },
  "phone-band": {
    question: "On which band is the phone there?",
    how: "In the phone's network details",
    minutes: 1,
    ways: BY_AIR,
    outcomes: { "2.4": "the phone is on 2.4 GHz there", "5": "the phone is on 5 GHz there" },
  },
  "phone-joins": {
    question: "Does the phone join with the same passphrase?",
    how: "Forget the network in the phone, join it again and type what was typed into the device",
    minutes: 2,
    ways: BY_AIR,
    outcomes: {
      yes: "the phone joins with the same passphrase",
      no: "the phone does not join with the same passphrase",
    },
  },
  "phone-internet": {
    question: "Does the phone reach the internet by this network?",
    how: "Mobile data off, then open any page",
    minutes: 1,
    ways: BY_ROUTER,
    outcomes: { yes: "the phone reaches the internet there", no: "the phone does not reach the internet there" },
  },
  "others-online": {
    question: "Are other devices of this site online?",
    how: "In the service, or ask the customer whether everything else works",
    minutes: 1,
    outcomes: { yes: "other devices of the site are online", no: "no other device of the site is online" },
  },
  address: {
    question: "Which address does it have?",
    how: "On its display, on its own page, or in the router's list",
    minutes: 1.5,
    typed: "address",
    outcomes: {
      none: "it has no address from the router",
      ok: "it has an address",
      "other-subnet": "its address is not of this network",
      duplicate: "another device has its address",
    },
  },
  gateway: {
    question: "Does the gateway answer?",
    how: "Its own network test, or a ping from its place in the network",
    minutes: 1,
    ways: BY_ROUTER,
    outcomes: { answers: "the gateway answers", silent: "the gateway does not answer" },
    byItself: true,
  },
  outside: {
    question: "Does an address outside answer?",
    how: "Its own network test, or a ping from its place in the network",
    minutes: 1,
    outcomes: {
      answers: "an address outside answers",
      silent: "nothing outside answers",
      "login-page": "a log-in page comes instead",
    },
    byItself: true,
  },
  name: {
    question: "Is the service's name resolved?",
    how: "Its own network test, or look the name up in the same network",
    minutes: 1,
    outcomes: { resolves: "the service's name is resolved", fails: "the service's name is not resolved" },
    byItself: true,
  },
  "service-port": {
    question: "Is the service's port open from here?",
    how: "Connect to it from the same network",
    minutes: 1,
    outcomes: {
      open: "the service's port is open from here",
      refused: "the service's port is refused",
      silent: "nothing comes back from the service's port",
    },
    byItself: true,
  },
  "service-flag": {
    question: "What does the service say of it?",
    how: "Look it up by its serial number",
    minutes: 2,
    outcomes: {
      online: "the service has it online",
      offline: "the service has it offline",
      "unknown-device": "the service does not know it",
      "other-account": "the service has it in another account",
      "needs-firmware": "the service wants newer firmware",
    },
  },
  clock: {
    question: "How far is its clock off?",
    how: "Beside the phone's clock, date and zone too",
    minutes: 1,
    typed: "number",
    unit: "s",
    outcomes: {
      right: "its clock is right",
      "a-little": "its clock is some minutes off",
      wrong: "its clock is wrong",
    },
    byItself: true,
  },
  signal: {
    question: "How strong is the signal at the device?",
    how: "As the device itself says it; else the phone, held at it",
    minutes: 1,
    ways: ["wifi", "cellular", "hub"],
    typed: "number",
    unit: "dBm",
    outcomes: { good: "the signal is good", weak: "the signal is weak", bad: "the signal is too weak" },
  },
  sim: {
    question: "What does it say of the SIM?",
    how: "On its display or page; else power off and look at the tray",
    minutes: 1,
    ways: ["cellular"],
    outcomes: { none: "no SIM is found", found: "the SIM is found", pin: "the SIM wants its PIN" },
  },
  registered: {
    question: "Is it registered in the mobile network?",
    how: "On its display or page",
    minutes: 1,
    ways: ["cellular"],
    outcomes: {
      home: "it is in its own mobile network",
      roaming: "it is in another mobile network",
      denied: "the mobile network denies it",
      searching: "it searches for a mobile network",
    },
  },
  "units-heard": {
    question: "How many of its units are heard?",
    how: "On the gateway's, hub's or logger's page",
    minutes: 1.5,
    ways: NOT_ALONE,
    outcomes: {
      all: "all units are heard",
      some: "only some units are heard",
      none: "no unit is heard",
    },
  },
  hub: {
    question: "Does it hear its hub?",
    how: "Its lamp or page, or the hub's list",
    minutes: 1,
    ways: NOT_ALONE,
    outcomes: { heard: "it hears its hub", lost: "it does not hear its hub" },
  },
  "minutes-since-power": {
    question: "How long has it been powered?",
    how: "Since it was switched on last",
    minutes: 0.2,
    typed: "number",
    unit: "min",
    outcomes: {
      short: "it was switched on only just",
      middle: "it has had a while since it was switched on",
      long: "it has had long enough since it was switched on",
    },
  },
  "minutes-since-change": {
    question: "How long ago was the last change?",
    how: "Since anything was typed or plugged in",
    minutes: 0.2,
    typed: "number",
    unit: "min",
    outcomes: {
      short: "the last change was only just",
      middle: "the last change was a while ago",
      long: "the last change was long ago",
    },
  },
} as const satisfies Readonly<Record<string, OnlineCheck>>;

/** The id of a check that is the same for every kit. */
export type CommonCheckId = keyof typeof CHECKS;
/** The id of a check. */
export type CheckId = CommonCheckId | "lamp";

/** The ids of the checks that are the same for every kit. */
export const COMMON_CHECK_IDS = Object.keys(CHECKS) as readonly CommonCheckId[];

/**
 * A check by its id.
 *
 * @example checkOf("hub").question // "Does it hear its hub?"
 */
export function checkOf(id: CommonCheckId): OnlineCheck {
  return CHECKS[id];
}
