/** The ways by which a device comes to be seen from outside. */
export const WAYS = [
  { id: "cable", name: "Cable" },
  { id: "wifi", name: "Wi-Fi" },
  { id: "cellular", name: "Cellular" },
  { id: "hub", name: "Through a hub" },
  { id: "power-line", name: "Over the power line" },
  { id: "logger", name: "Through a logger" },
] as const;

/** The id of a way. */
export type OnlineWay = (typeof WAYS)[number]["id"];

/** The ids of the ways. */
export const WAY_IDS = WAYS.map(({ id }) => id);

/** What may have changed lately, and whether nothing did. */
export const CHANGES = [
  { id: "nothing", name: "Nothing" },
  { id: "router", name: "The router" },
  { id: "provider", name: "The internet provider" },
  { id: "passphrase", name: "The passphrase" },
  { id: "firmware", name: "Firmware of a device" },
  { id: "device", name: "A device was exchanged" },
] as const;

/** The id of what changed. */
export type Changed = (typeof CHANGES)[number]["id"];

/** The ids of what may have changed. */
export const CHANGED_IDS = CHANGES.map(({ id }) => id);

/**
 * A way in words.
 *
 * @example wayName("power-line") // "Over the power line"
 */
export function wayName(way: OnlineWay): string {
  return WAYS.find(({ id }) => id === way)!.name;
}
