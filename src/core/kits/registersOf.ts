import type { Kit } from "@/core/kits/kitSchema";
import { REGISTER_WORDS, type Register, type RegisterQuantity } from "@/core/kits/registerSchema";

/** Registers that one request fetches at most; more are asked for in further blocks. */
const MOST_A_BLOCK = 40;
/** What is asked in every cycle; how a device is set is asked when somebody wants to know. */
const MEASURED: readonly RegisterQuantity[] = [
  "power",
  "reactive",
  "voltage",
  "current",
  "frequency",
  "energy",
  "energy-negative",
  "state",
];

/** Registers that follow one another in a table, as one request fetches them. */
export interface RegisterBlock {
  readonly table: Register["table"];
  readonly address: number;
  readonly count: number;
  readonly registers: readonly Register[];
}

/** Whether a value is one that changes by itself. */
export function isMeasured({ of }: Pick<Register, "of">): boolean {
  return MEASURED.includes(of);
}

/**
 * The fewest requests that fetch some registers: those that follow one another without a gap go together, since a
 * device may refuse a block that holds an address which it has not.
 *
 * For example: s32 at 7060, 7062 and a u16 at 7064, and a u16 at 7070: two blocks, 7060 + 5 and 7070 + 1.
 */
export function registerBlocks(registers: readonly Register[]): readonly RegisterBlock[] {
  const blocks: RegisterBlock[] = [];
  const inOrder = registers.toSorted((a, b) => a.table.localeCompare(b.table) || a.address - b.address);
  for (const register of inOrder) {
    const words = REGISTER_WORDS[register.type];
    const last = blocks.at(-1);
    const follows =
      last?.table === register.table &&
      last.address + last.count === register.address &&
      last.count + words <= MOST_A_BLOCK;
    if (last && follows)
      blocks[blocks.length - 1] = {
        ...last,
        count: last.count + words,
        registers: [...last.registers, register],
      };
    else blocks.push({ table: register.table, address: register.address, count: words, registers: [register] });
  }
  return blocks;
}

/**
 * The registers of each request that a client makes of a device in every cycle. A kit of before says only how many
 * there are; one whose list nobody wrote is asked for one.
 *
 * For example: a meter with 17 measured input registers in a row: [17].
 */
export function polledCounts({ registers, serial }: Pick<Kit, "registers" | "serial">): readonly number[] {
  const blocks = registerBlocks(registers.filter(isMeasured)).map(({ count }) => count);
  if (blocks.length > 0) return blocks;
  const count = (serial?.registers ?? []).reduce((sum, { type }) => sum + REGISTER_WORDS[type], 0);
  const whole = Math.max(1, Math.ceil(count / MOST_A_BLOCK));
  return Array.from({ length: whole }, (_, at) => Math.max(1, Math.min(MOST_A_BLOCK, count - at * MOST_A_BLOCK)));
}
