import { z } from "zod";
import type { Problem } from "@/core/problem";
import { text } from "@/core/text";

/** Whole words of 16 bits that a type takes. */
export const REGISTER_WORDS = { u16: 1, s16: 1, u32: 2, s32: 2, u64: 4, s64: 4, f32: 2 } as const;

/**
 * What a register can hold: measured values, how an input is set (ratio as its primary; direction 0 as printed, 1
 * turned), how a limit is set, and what the device is.
 */
export const REGISTER_QUANTITIES = [
  "power",
  "reactive",
  "voltage",
  "current",
  "frequency",
  "energy",
  "energy-negative",
  "ratio",
  "direction",
  "limit",
  "fail-safe-time",
  "fail-safe-power",
  "address",
  "state",
  "serial",
  "firmware",
  "other",
] as const;

/** Each unit that a register may have, in the unit that Gormit computes with. */
export const REGISTER_UNITS = {
  W: { base: "W", factor: 1 },
  kW: { base: "W", factor: 1000 },
  var: { base: "var", factor: 1 },
  kvar: { base: "var", factor: 1000 },
  V: { base: "V", factor: 1 },
  mV: { base: "V", factor: 0.001 },
  A: { base: "A", factor: 1 },
  mA: { base: "A", factor: 0.001 },
  Wh: { base: "Wh", factor: 1 },
  kWh: { base: "Wh", factor: 1000 },
  Hz: { base: "Hz", factor: 1 },
  s: { base: "s", factor: 1 },
  "%": { base: "%", factor: 1 },
  code: { base: "code", factor: 1 },
  number: { base: "number", factor: 1 },
  version: { base: "version", factor: 1 },
} as const;

type RegisterUnit = keyof typeof REGISTER_UNITS;

const UNITS = Object.keys(REGISTER_UNITS) as [RegisterUnit, ...RegisterUnit[]];
const LAST_ADDRESS = 65_535;

/** Where a device keeps one value, and how it is coded. Without an input or a phase it is the whole device's. */
export const registerSchema = z.strictObject({
  of: z.enum(REGISTER_QUANTITIES).default("other").describe("What it holds"),
  name: text().trim().min(1).max(200).optional().describe("Its name"),
  input: z.int().min(1).max(64).optional().describe("Of which input"),
  phase: z.enum(["L1", "L2", "L3"]).optional().describe("Of which phase"),
  table: z.enum(["input", "holding"]).default("input").describe("Holding or input registers"),
  address: z.int().min(0).max(LAST_ADDRESS).describe("Address"),
  type: z.enum(["u16", "s16", "u32", "s32", "u64", "s64", "f32"]).describe("How the value is coded"),
  wordOrder: z.enum(["high-first", "low-first"]).default("high-first").describe("Which of its words comes first"),
  scale: z.number().default(1).describe("The value of one step"),
  unit: z.enum(UNITS).describe("Unit of the value"),
  access: z.enum(["read", "read-write"]).default("read").describe("Whether it can be written"),
});

/** One value of a device's register list. */
export type Register = z.output<typeof registerSchema>;
/** What a register holds. */
export type RegisterQuantity = Register["of"];

/**
 * What is wrong with a register list: a value that reaches into another or past the last address, a step of nothing, an
 * input register that is to be written, an input that the device has not, or the same value twice. Paths are relative
 * to the list.
 *
 * For example: an s32 at 7060 and a u16 at 7061 of the same table: "7061 lies inside the value at 7060".
 */
export function registerProblems(registers: readonly Register[], inputs: readonly number[]): readonly Problem[] {
  const taken = new Map<string, number>();
  const held = new Set<string>();
  return registers.flatMap((register, at): readonly Problem[] => {
    const { address, table, of, input, phase } = register;
    const problems: Problem[] = [];
    const words = REGISTER_WORDS[register.type];
    if (address + words - 1 > LAST_ADDRESS)
      problems.push({ path: [at, "address"], message: `${words} words from ${address} go past ${LAST_ADDRESS}` });
    for (let word = address; word < address + words; word++) {
      const other = taken.get(`${table} ${word}`);
      if (other !== undefined)
        problems.push({ path: [at, "address"], message: `${word} lies inside the value at ${other}` });
      taken.set(`${table} ${word}`, address);
    }
    if (register.scale === 0) problems.push({ path: [at, "scale"], message: "a step of 0 says nothing" });
    if (table === "input" && register.access !== "read")
      problems.push({ path: [at, "access"], message: "an input register cannot be written" });
    if (input !== undefined && phase !== undefined)
      problems.push({ path: [at, "phase"], message: "it is of an input or of a phase, not of both" });
    if (input !== undefined && !inputs.includes(input))
      problems.push({ path: [at, "input"], message: `this kit has no input ${input}` });
    const what = `${of} ${input ?? ""} ${phase ?? ""}`;
    if (of !== "other" && held.has(what)) problems.push({ path: [at, "of"], message: "this value stands twice" });
    held.add(what);
    return problems;
  });
}
