import { REGISTER_UNITS, REGISTER_WORDS, type Register } from "@/core/kits/registerSchema";

type Coded = Pick<Register, "type" | "wordOrder" | "scale" | "unit">;

const LARGEST = {
  u16: [0n, 0xffffn],
  s16: [-0x8000n, 0x7fffn],
  u32: [0n, 0xffff_ffffn],
  s32: [-0x8000_0000n, 0x7fff_ffffn],
  u64: [0n, 0xffff_ffff_ffff_ffffn],
  s64: [-0x8000_0000_0000_0000n, 0x7fff_ffff_ffff_ffffn],
} as const;
const WORD_BITS = 16n;
const WORD_MASK = 0xffffn;
const LARGEST_F32 = 3.4028234663852886e38;

/** The unit that Gormit computes with: W for kW, A for mA. */
export function baseUnit({ unit }: Pick<Register, "unit">): string {
  return REGISTER_UNITS[unit].base;
}

/** How far apart two values of a register are that it can tell, in its base unit; 0 for a floating number. */
export function registerStep({ type, scale, unit }: Coded): number {
  return type === "f32" ? 0 : Math.abs(scale) * REGISTER_UNITS[unit].factor;
}

/**
 * The words of a value, W, V, A, Wh …, as a device sends them; what is too large stands at the end of its range, as a
 * device's own counter does.
 *
 * @example encodeRegister(-2470, { type: "s32", wordOrder: "high-first", scale: 1, unit: "W" }) // [0xffff, 0xf65a]
 */
export function encodeRegister(value: number, register: Coded): readonly number[] {
  const { type, scale, unit } = register;
  const steps = value / (scale * REGISTER_UNITS[unit].factor);
  if (type === "f32") {
    const view = new DataView(new ArrayBuffer(4));
    view.setFloat32(0, Math.min(Math.max(steps, -LARGEST_F32), LARGEST_F32));
    return ordered([view.getUint16(0), view.getUint16(2)], register);
  }
  const [least, most] = LARGEST[type];
  const whole = Number.isFinite(steps) ? BigInt(Math.round(steps)) : steps > 0 ? most : least;
  const bounded = whole < least ? least : whole > most ? most : whole;
  const words = REGISTER_WORDS[type];
  return ordered(
    Array.from({ length: words }, (_, at) => Number((bounded >> (WORD_BITS * BigInt(words - 1 - at))) & WORD_MASK)),
    register,
  );
}

/**
 * The value of a register's words in its base unit (W for kW).
 *
 * @example decodeRegister([0xffff, 0xf65a], { type: "s32", wordOrder: "high-first", scale: 1, unit: "W" }) // -2470
 */
export function decodeRegister(words: readonly number[], register: Coded): number {
  const { type, scale, unit } = register;
  const high = ordered(words.slice(0, REGISTER_WORDS[type]), register);
  return rawValue(high, type) * scale * REGISTER_UNITS[unit].factor;
}

function rawValue(words: readonly number[], type: Register["type"]): number {
  if (type === "f32") {
    const view = new DataView(new ArrayBuffer(4));
    words.forEach((word, at) => view.setUint16(2 * at, word));
    return view.getFloat32(0);
  }
  const unsigned = words.reduce((sum, word) => (sum << WORD_BITS) | BigInt(word), 0n);
  return Number(type.startsWith("s") ? BigInt.asIntN(16 * words.length, unsigned) : unsigned);
}

function ordered(words: readonly number[], { wordOrder }: Coded): readonly number[] {
  return wordOrder === "low-first" ? words.toReversed() : words;
}
