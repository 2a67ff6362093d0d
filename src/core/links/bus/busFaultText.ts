import type { BusFault, BusModel, BusProbe } from "@/core/links/bus/multimeter";

/** What a bus calls its two cores. */
const CORES = { rs485: ["A/+", "B/−"], can: ["CANH", "CANL"] } as const;

/**
 * A fault in words, with what to do.
 *
 * For example: `busFaultText(model, "can", { kind: "short", at: 0 }).text` gives "CANH and CANL touch at Inverter."
 *
 * @param given Where it may be, where that cannot be told yet, in their order along the line.
 */
export function busFaultText(
  { deviceNames }: BusModel,
  kind: "rs485" | "can",
  fault: BusFault,
  given?: readonly number[],
): { readonly text: string; readonly cure: string } {
  const places = given ?? ("at" in fault ? [fault.at] : []);
  const names = places.map((place) => deviceNames[place] ?? "");
  const name = names.join(" or ");
  const [first, last] = [places[0] ?? 0, places.at(-1) ?? 0];
  const before = deviceNames[Math.max(0, first - 1)] ?? "";
  const after = deviceNames[last] ?? "";
  const somewhere = places.length > 1 ? "somewhere " : "";
  const [plus, minus] = CORES[kind];
  switch (fault.kind) {
    case "terminator-missing":
      return {
        text: `The terminator at ${name} is missing or off.`,
        cure: `Switch the terminator of ${name} on, or fit 120 Ω`,
      };
    case "terminator-extra":
      return {
        text: `There is a terminator at ${name} that the plan does not have.`,
        cure: `Switch the terminator of ${name} off`,
      };
    case "open":
      return {
        text: `A core is open, or on the wrong pin, ${somewhere}between ${before} and ${after}.`,
        cure: `Check every termination between ${before} and ${after}, pin by pin`,
      };
    case "exchanged":
      return { text: `${plus} and ${minus} are exchanged from ${name} on.`, cure: `Exchange the two cores at ${name}` };
    case "short": {
      const [from, to] = [deviceNames[Math.floor(first)] ?? "", deviceNames[Math.ceil(last)] ?? ""];
      return {
        text: `${plus} and ${minus} touch ${from === to ? `at ${from}` : `somewhere between ${from} and ${to}`}.`,
        cure:
          from === to
            ? `Take ${from} off the line, and measure again`
            : `Take the devices from ${from} to ${to} off one by one until the short is gone`,
      };
    }
    case "bias-missing":
      return {
        text: `Nothing holds the idle line: the bias at ${name} is off.`,
        cure: `Switch bias on at ${name}, or in exactly one other device`,
      };
    case "no-supply":
      return {
        text: "No device drives the line: its supplies are off.",
        cure: "Switch the supplies on, then measure again",
      };
    case "plus-to-ground":
      return {
        text: `${plus} touches ground or the shield.`,
        cure: `Look for a strand of ${plus} at each termination`,
      };
    case "minus-to-ground":
      return {
        text: `${minus} touches ground or the shield.`,
        cure: `Look for a strand of ${minus} at each termination`,
      };
  }
}

/** What a probe measures, in words: "A to B at Inverter 3". */
export function probeText({ deviceNames }: BusModel, kind: "rs485" | "can", { what, where }: BusProbe): string {
  const place = (where === "first" ? deviceNames[0] : deviceNames.at(-1)) ?? "";
  return `${PROBE_WORDS[kind][what] ?? what} at ${place}`;
}

const PROBE_WORDS: Readonly<Record<"rs485" | "can", Readonly<Partial<Record<BusProbe["what"], string>>>>> = {
  rs485: {
    ohm: "A to B",
    "idle-mv": "A against B, idle",
    "plus-ground-mv": "A to ground, idle",
    "minus-ground-mv": "B to ground, idle",
  },
  can: { ohm: "CANH to CANL", "high-ground-mv": "CANH to ground", "low-ground-mv": "CANL to ground" },
};
