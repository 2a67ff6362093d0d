import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { kitSchema } from "@/core/kits/kitSchema";
import { readYaml } from "@/core/kits/readYaml";
import { registersOfCsv, withRegisters } from "@/core/kits/registerCsv";
import { REGISTER_UNITS, REGISTER_WORDS, registerProblems, type Register } from "@/core/kits/registerSchema";
import { polledCounts, registerBlocks } from "@/core/kits/registersOf";
import { decodeRegister, encodeRegister, registerStep } from "@/core/kits/registerValue";
import { registerWords } from "@/core/kits/registerWords";
import { kitText, shippedKits } from "../../../tests/fixtures/shipped";

const TYPES = Object.keys(REGISTER_WORDS) as Register["type"][];
const coded = fc.record({
  type: fc.constantFrom(...TYPES),
  wordOrder: fc.constantFrom("high-first" as const, "low-first" as const),
  scale: fc.constantFrom(0.001, 0.01, 0.1, 1, 10, -1),
  unit: fc.constantFrom(...(Object.keys(REGISTER_UNITS) as Register["unit"][])),
});

function register(change: Partial<Register> = {}): Register {
  const usual = { of: "other", table: "input", address: 7000, type: "u16", wordOrder: "high-first" } as const;
  return { ...usual, scale: 1, unit: "W", access: "read", ...change };
}

describe("the words of a register", () => {
  it("give the value back within half a step, in every coding", () => {
    fc.assert(
      fc.property(coded, fc.integer({ min: -30_000, max: 30_000 }), (own, steps) => {
        const isUnsigned = own.type.startsWith("u");
        const value = (isUnsigned ? Math.abs(steps) : steps) * own.scale * REGISTER_UNITS[own.unit].factor;
        const words = encodeRegister(value, own);
        expect(words).toHaveLength(REGISTER_WORDS[own.type]);
        expect(words.every((word) => Number.isInteger(word) && word >= 0 && word <= 0xffff)).toBe(true);
        const off = Math.abs(decodeRegister(words, own) - value);
        expect(off).toBeLessThanOrEqual(registerStep(own) / 2 + Math.abs(value) * 2 ** -22);
      }),
    );
  });

  it.each([
    ["u16", 70_000, 65_535],
    ["u16", -5, 0],
    ["s16", -40_000, -32_768],
    ["u32", Infinity, 4_294_967_295],
    ["s64", -12, -12],
  ] as const)("of %s hold %d as %d", (type, value, held) => {
    const own = register({ type });
    expect(decodeRegister(encodeRegister(value, own), own)).toBe(held);
  });
});

describe("the blocks in which registers are asked for", () => {
  it("hold each register once, have no gap and at most 40 registers", () => {
    fc.assert(
      fc.property(fc.uniqueArray(fc.integer({ min: 7000, max: 7400 }), { maxLength: 120 }), (addresses) => {
        const own = addresses.map((address) => register({ address }));
        const blocks = registerBlocks(own);
        expect(blocks.flatMap(({ registers }) => registers.map(({ address }) => address))).toEqual(
          addresses.toSorted((a, b) => a - b),
        );
        for (const { address, count, registers } of blocks) {
          expect(count).toBeLessThanOrEqual(40);
          expect(registers.map((one) => one.address)).toEqual(Array.from({ length: count }, (_, at) => address + at));
        }
      }),
    );
  });

  it("of a kit of before are as many as its old list says, and one where there is none", () => {
    const old = Array.from({ length: 50 }, (_, at) => ({
      ...register(),
      name: "x",
      type: "u16" as const,
      address: at,
    }));
    const serial = { baud: 9600, dataBits: 8, parity: "none", stopBits: 1 } as const;
    expect(polledCounts({ registers: [], serial: { ...serial, registers: old } })).toEqual([40, 10]);
    expect(polledCounts({ registers: [], serial })).toEqual([1]);
  });
});

describe("a register list", () => {
  it.each([
    ["7061 lies inside the value at 7060", [register({ type: "s32", address: 7060 }), register({ address: 7061 })]],
    ["2 words from 65535 go past 65535", [register({ type: "u32", address: 65_535 })]],
    ["a step of 0 says nothing", [register({ scale: 0 })]],
    ["an input register cannot be written", [register({ access: "read-write" })]],
    ["this kit has no input 4", [register({ input: 4 })]],
    ["it is of an input or of a phase, not of both", [register({ input: 1, phase: "L1" })]],
    ["this value stands twice", [register({ of: "power" }), register({ of: "power", address: 7001 })]],
  ])("is refused: %s", (message, registers) => {
    expect(registerProblems(registers, [1, 2]).map((problem) => problem.message)).toEqual([message]);
  });

  it("of a file is refused with its line", () => {
    const text = kitText("meter-three-5a").replace("address: 7082,", "address: 7081,");
    const read = readYaml(text, kitSchema);
    expect(read.kind).toBe("bad-file");
    const line = text.split("\n").findIndex((own) => own.includes("address: 7081,")) + 1;
    expect(read.kind === "bad-file" && read.problems[0]).toMatchObject({ line });
  });

  it("of every kit that measures has the power of each of its inputs", () => {
    for (const kit of shippedKits().filter(({ metering }) => metering))
      expect(
        kit.registers.filter(({ of, input }) => of === "power" && input !== undefined).map(({ input }) => input),
        kit.id,
      ).toEqual(kit.metering!.inputs.map(({ n }) => n));
  });

  it("is said in words", () => {
    expect(registerWords(register({ of: "power", input: 2 }))).toBe("Power, input 2");
    expect(registerWords(register({ of: "voltage", phase: "L1" }))).toBe("Voltage, L1");
    expect(registerWords(register({ name: "Boost" }))).toBe("Boost");
  });
});

describe("a CSV of a register list", () => {
  it("is read whatever its columns are called, and put into the kit's text", () => {
    const outcome = registersOfCsv([
      { Quantity: "Power", Input: "1", Register: "0x1B9E", Format: "INT32", Factor: "0,1", Unit: "W", Table: "04" },
      { Quantity: "ratio", Input: "1", Register: "7070", Format: "uint16", Factor: "", Unit: "A", Table: "3" },
    ]);
    expect(outcome).toEqual({
      kind: "registers",
      registers: [
        register({ of: "power", input: 1, address: 7070, type: "s32", scale: 0.1 }),
        register({ of: "ratio", input: 1, address: 7070, unit: "A", table: "holding" }),
      ],
    });
    const text = withRegisters(kitText("meter-three-333mv"), outcome.kind === "registers" ? outcome.registers : []);
    const read = readYaml(text, kitSchema);
    expect(read.kind === "ok" && read.value.registers).toEqual(outcome.kind === "registers" && outcome.registers);
    expect(text).toContain("  - {of: power, input: 1, table: input, address: 7070, type: s32, scale: 0.1, unit: W}");
  });

  it("gives back every list of the kits that ship", () => {
    for (const kit of shippedKits().filter(({ registers }) => registers.length > 0)) {
      const rows = kit.registers.map((own) =>
        Object.fromEntries(Object.entries(own).map(([key, value]) => [key, String(value)])),
      );
      expect(registersOfCsv(rows), kit.id).toEqual({ kind: "registers", registers: kit.registers });
    }
  });

  it("is refused with every bad row, whatever stands in it", () => {
    const outcome = registersOfCsv([
      { address: "x", type: "s32", unit: "W" },
      { address: "7", type: "bits", unit: "K" },
    ]);
    expect(outcome.kind === "bad" && outcome.problems.map(({ row }) => row)).toEqual([1, 2, 2]);
    expect(registersOfCsv([]).kind).toBe("bad");
    fc.assert(
      fc.property(fc.array(fc.dictionary(fc.string(), fc.string())), (rows) => {
        expect(["bad", "registers"]).toContain(registersOfCsv(rows).kind);
      }),
    );
  });
});
