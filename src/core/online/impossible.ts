import type { CommonCheckId } from "@/core/online/checks";

/** Two things that cannot both be seen of one device at one time. */
export interface Impossible {
  readonly one: { readonly check: CommonCheckId; readonly outcomes: readonly string[] };
  readonly other: { readonly check: CommonCheckId; readonly outcomes: readonly string[] };
  readonly why: string;
}

/** What rules each other out, whatever is wrong: of one of the two somebody should look again. */
export const IMPOSSIBLE: readonly Impossible[] = [
  {
    one: { check: "sim", outcomes: ["none", "pin"] },
    other: { check: "registered", outcomes: ["home", "roaming"] },
    why: "no network takes a device whose SIM is not there or not unlocked",
  },
  {
    one: { check: "sim", outcomes: ["none", "pin"] },
    other: { check: "outside", outcomes: ["answers"] },
    why: "nothing outside is reached without a SIM that is unlocked",
  },
  {
    one: { check: "registered", outcomes: ["denied", "searching"] },
    other: { check: "outside", outcomes: ["answers"] },
    why: "nothing outside is reached without a mobile network",
  },
  {
    one: { check: "address", outcomes: ["none"] },
    other: { check: "service-flag", outcomes: ["online"] },
    why: "what has no address is not online; the service may show an hour ago",
  },
  {
    one: { check: "display", outcomes: ["dark"] },
    other: { check: "service-flag", outcomes: ["online"] },
    why: "what is off is not online; the service may show an hour ago",
  },
  {
    one: { check: "gateway", outcomes: ["silent"] },
    other: { check: "outside", outcomes: ["answers"] },
    why: "what answers from outside comes through the gateway; some gateways answer no ping",
  },
  {
    one: { check: "outside", outcomes: ["silent"] },
    other: { check: "service-port", outcomes: ["open"] },
    why: "the service is outside, too; some addresses answer no ping",
  },
  {
    one: { check: "name", outcomes: ["fails"] },
    other: { check: "service-port", outcomes: ["open"] },
    why: "the service is reached by its name",
  },
  {
    one: { check: "phone-joins", outcomes: ["no"] },
    other: { check: "phone-internet", outcomes: ["yes"] },
    why: "a phone that does not join has its internet from elsewhere: mobile data off",
  },
  {
    one: { check: "hub", outcomes: ["lost"] },
    other: { check: "service-flag", outcomes: ["online"] },
    why: "what is seen through a hub is not online without it",
  },
  {
    one: { check: "link-lamp", outcomes: ["dark"] },
    other: { check: "gateway", outcomes: ["answers"] },
    why: "nothing answers over a cable without a link",
  },
  {
    one: { check: "hub", outcomes: ["lost"] },
    other: { check: "units-heard", outcomes: ["all"] },
    why: "whoever hears all units hears this one",
  },
];
