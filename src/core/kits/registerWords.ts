import type { Register, RegisterQuantity } from "@/core/kits/registerSchema";
import { capital } from "@/core/words";

const WORDS: Readonly<Record<RegisterQuantity, string>> = {
  power: "power",
  reactive: "reactive power",
  voltage: "voltage",
  current: "current",
  frequency: "frequency",
  energy: "energy, counted positive",
  "energy-negative": "energy, counted negative",
  ratio: "primary of the CT",
  direction: "direction of the CT",
  limit: "export limit",
  "fail-safe-time": "time without its meter",
  "fail-safe-power": "power without its meter",
  address: "bus address",
  state: "state",
  serial: "serial number",
  firmware: "firmware",
  other: "value",
};

/**
 * What a register holds, as a person reads it.
 *
 * For example: power of input 2 gives "Power, input 2".
 */
export function registerWords({ of, name, input, phase }: Pick<Register, "of" | "name" | "input" | "phase">): string {
  const where = input !== undefined ? `, input ${input}` : phase !== undefined ? `, ${phase}` : "";
  return name ?? `${capital(WORDS[of])}${where}`;
}
