/** The rungs from a device to the owner's phone, in their order. */
export const RUNGS = [
  { id: "powered", name: "Powered and awake" },
  { id: "interface-up", name: "Interface up" },
  { id: "network-seen", name: "Network there" },
  { id: "joined", name: "Joined" },
  { id: "address", name: "Address" },
  { id: "gateway", name: "Gateway" },
  { id: "internet", name: "Internet" },
  { id: "name-and-clock", name: "Name and clock" },
  { id: "service-reached", name: "Service reached" },
  { id: "accepted", name: "Accepted by the service" },
  { id: "data-arrives", name: "Data arrives" },
  { id: "owner-sees", name: "The owner sees it" },
] as const;

/** The id of a rung. */
export type Rung = (typeof RUNGS)[number]["id"];

/** The ids of the rungs, in their order. */
export const RUNG_IDS = RUNGS.map(({ id }) => id);

/**
 * How high a rung is: 0 is the lowest, -1 stands for none.
 *
 * @example rungHeight("joined") // 3
 */
export function rungHeight(rung: Rung | null): number {
  return rung === null ? -1 : RUNG_IDS.indexOf(rung);
}

/**
 * A rung in words.
 *
 * @example rungName("network-seen") // "Network there"
 */
export function rungName(rung: Rung): string {
  return RUNGS[rungHeight(rung)]!.name;
}
