import type { StepTag } from "@/core/visit/visitStep";

/** Chooses steps by what kind they are. */
interface OrderRule {
  readonly id: string;
  readonly first: readonly StepTag[];
  readonly then: readonly StepTag[];
  /** Only between steps of the same device, at the same place (or where nobody said at which), or anywhere. */
  readonly same: "device" | "place" | "site";
  readonly why: string;
}

/** Everything that opens a cover or touches a conductor. */
export const TOUCHES: readonly StepTag[] = [
  "bond",
  "wire-power",
  "neutral-earth",
  "taps",
  "ct-leads",
  "clamp",
  "wire-link",
  "measure-link",
  "battery-polarity",
];
const SWITCHES_ON = ["on-ac", "on-battery", "on-dc", "on"] as const;

/**
 * What comes before what, with the reason. Rules of a kit's own power-up order are added to these by `visitSheet`.
 */
export const ORDER_RULES: readonly OrderRule[] = [
  {
    id: "look-first",
    first: ["survey"],
    then: ["unload", "isolate", "mount", "signal", "sim"],
    same: "site",
    why: "What is there decides what is done",
  },
  {
    id: "tools-first",
    first: ["unload"],
    then: ["isolate", "mount"],
    same: "site",
    why: "Missing parts are known before anything is off",
  },
  {
    id: "isolate-then-prove",
    first: ["isolate"],
    then: ["prove-dead"],
    same: "site",
    why: "Dead is proved after it was switched off",
  },
  {
    id: "dead-before-touch",
    first: ["prove-dead"],
    then: TOUCHES,
    same: "place",
    why: "Nothing is touched before it is proved dead",
  },
  {
    id: "dead-before-far-end",
    first: ["prove-dead"],
    then: ["wire-link", "clamp"],
    same: "site",
    why: "A lead ends at two places, and both are opened",
  },
  {
    id: "bled-before-opening",
    first: ["bleed"],
    then: ["bond", "wire-power", "wire-link", "measure-link"],
    same: "site",
    why: "A DC link holds its charge",
  },
  {
    id: "isolate-then-bleed",
    first: ["isolate"],
    then: ["bleed"],
    same: "site",
    why: "The inverter stops before its DC is opened",
  },
  {
    id: "fixed-before-wired",
    first: ["mount"],
    then: ["bond", "wire-power", "taps", "ct-leads", "strings", "battery-polarity"],
    same: "device",
    why: "Wires are cut to what hangs on the wall",
  },
  {
    id: "fixed-before-linked",
    first: ["mount"],
    then: ["wire-link"],
    same: "site",
    why: "A line goes through all its devices",
  },
  {
    id: "fixed-before-serial",
    first: ["mount"],
    then: ["serial"],
    same: "device",
    why: "The plate is read where it hangs",
  },
  {
    id: "look-before-serial",
    first: ["unload"],
    then: ["serial", "strings", "labels"],
    same: "site",
    why: "What was brought is checked first",
  },
  {
    id: "clamped-before-labels",
    first: ["clamp", "wire-link"],
    then: ["labels"],
    same: "site",
    why: "A label says what is fitted",
  },
  { id: "earth-first", first: ["bond"], then: ["wire-power", "neutral-earth"], same: "device", why: "PE first" },
  {
    id: "leads-before-clamp",
    first: ["ct-leads"],
    then: ["clamp"],
    same: "device",
    why: "An open CT on a live conductor makes dangerous voltage",
  },
  {
    id: "wired-before-measured",
    first: ["wire-link"],
    then: ["measure-link"],
    same: "device",
    why: "The whole line is measured",
  },
  {
    id: "wired-before-supply",
    first: ["wire-power", "neutral-earth", "taps", "clamp", "measure-link", "wire-link"],
    then: ["restore"],
    same: "site",
    why: "Covers are open until all of it is in",
  },
  {
    id: "polarity-before-battery",
    first: ["battery-polarity"],
    then: ["on-battery"],
    same: "device",
    why: "A reversed battery destroys the inverter",
  },
  {
    id: "polarity-before-dc",
    first: ["strings"],
    then: ["on-dc"],
    same: "device",
    why: "A reversed string is not mated",
  },
  {
    id: "supply-before-switch",
    first: ["restore"],
    then: SWITCHES_ON,
    same: "site",
    why: "Every source is verified before anything hangs on it",
  },
  {
    id: "sim-before-power",
    first: ["sim"],
    then: ["signal"],
    same: "device",
    why: "The level shows once the SIM is in",
  },
  {
    id: "sim-before-supply",
    first: ["sim"],
    then: ["restore"],
    same: "site",
    why: "It looks for its SIM only when it starts",
  },
  {
    id: "on-before-reach",
    first: SWITCHES_ON,
    then: ["reach", "configure", "reconnect", "firmware"],
    same: "device",
    why: "It must run",
  },
  { id: "on-before-pair", first: SWITCHES_ON, then: ["pair-open", "pair"], same: "site", why: "Both ends must run" },
  { id: "open-before-pair", first: ["pair-open"], then: ["pair"], same: "device", why: "The window is opened first" },
  {
    id: "supply-before-settings",
    first: ["restore"],
    then: ["reach", "configure"],
    same: "site",
    why: "A device without supply takes no settings",
  },
  {
    id: "serial-before-reach",
    first: ["serial"],
    then: ["reach", "configure"],
    same: "device",
    why: "To find this one and no other",
  },
  {
    id: "reach-before-configure",
    first: ["reach"],
    then: ["configure", "firmware"],
    same: "device",
    why: "Values are typed once it answers",
  },
  {
    id: "configured-before-proof",
    first: ["configure", "pair", "ct-test"],
    then: ["prove"],
    same: "site",
    why: "A ratio left at its default proves nothing",
  },
  {
    id: "configured-before-test",
    first: ["configure"],
    then: ["ct-test"],
    same: "site",
    why: "The test needs meter and ratio",
  },
  {
    id: "joined-before-proof",
    first: ["reconnect", "on-ac", "on-dc", "on-battery"],
    then: ["prove"],
    same: "site",
    why: "Sun and battery must run",
  },
  {
    id: "configured-before-online",
    first: ["configure", "signal"],
    then: ["online"],
    same: "device",
    why: "It goes online with its right settings",
  },
  {
    id: "on-before-online",
    first: [...SWITCHES_ON, "restore"],
    then: ["online", "firmware"],
    same: "site",
    why: "It must run",
  },
  {
    id: "proof-before-covers",
    first: ["prove", "labels"],
    then: ["covers"],
    same: "site",
    why: "A reversed CT is found while the covers are still off",
  },
  {
    id: "ask-first",
    first: ["ask"],
    then: ["restart", "signal", "reach", "enter-network"],
    same: "site",
    why: "What changed decides what is tried",
  },
  {
    id: "restart-before-settings",
    first: ["restart"],
    then: ["reach", "enter-network"],
    same: "device",
    why: "A restart costs less than a new set-up",
  },
  {
    id: "reach-before-network",
    first: ["signal", "reach"],
    then: ["enter-network"],
    same: "device",
    why: "The network is entered where it can be heard, by whoever is in the device",
  },
  {
    id: "network-before-online",
    first: ["enter-network", "restart"],
    then: ["online"],
    same: "device",
    why: "It must be in the network",
  },
  {
    id: "found-before-opening",
    first: ["survey", "as-found"],
    then: ["isolate"],
    same: "site",
    why: "What is wrong is read before anything is touched",
  },
  {
    id: "told-before-proof",
    first: ["reach", "on-ac", "on", "restore"],
    then: ["tell"],
    same: "site",
    why: "It is told once all of it runs",
  },
  { id: "tell-before-proof", first: ["tell"], then: ["prove"], same: "site", why: "It must know of what it reads" },
  {
    id: "compare-last",
    first: ["prove", "online", "as-found"],
    then: ["compare"],
    same: "site",
    why: "Only what works can be compared",
  },
  { id: "compare-before-covers", first: ["compare"], then: ["covers"], same: "site", why: "Covers come last" },
];
