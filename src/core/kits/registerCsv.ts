import { isSeq, parseDocument } from "yaml";
import { registerSchema, type Register } from "@/core/kits/registerSchema";

/** Rows of a table with the heads of its columns as keys. */
export type RegisterRow = Readonly<Record<string, string>>;

/** A register list that was read of a table, or what is wrong with its rows. */
export type RegisterCsvOutcome =
  | { readonly kind: "registers"; readonly registers: readonly Register[] }
  | { readonly kind: "bad"; readonly problems: readonly { readonly row: number; readonly message: string }[] };

/** Heads of columns as lists of registers have them, small and without spaces. */
const HEADS: Readonly<Record<string, readonly string[]>> = {
  of: ["of", "quantity", "value", "what"],
  name: ["name", "description", "parameter"],
  input: ["input", "channel", "ct"],
  phase: ["phase", "line"],
  table: ["table", "space", "area"],
  address: ["address", "register", "addr", "offset"],
  type: ["type", "format", "datatype", "coding"],
  wordOrder: ["wordorder", "order", "endian"],
  scale: ["scale", "factor", "gain", "step", "resolution"],
  unit: ["unit", "units"],
  access: ["access", "rw", "mode"],
};

/** Other people's words for what this format names. */
const SAME: Readonly<Record<string, Readonly<Record<string, string>>>> = {
  type: {
    uint16: "u16",
    int16: "s16",
    uint32: "u32",
    int32: "s32",
    uint64: "u64",
    int64: "s64",
    float: "f32",
    float32: "f32",
  },
  table: { "3": "holding", "03": "holding", "4": "input", "04": "input" },
  access: { r: "read", ro: "read", rw: "read-write", "r/w": "read-write", wo: "read-write", w: "read-write" },
  wordOrder: { big: "high-first", little: "low-first", high: "high-first", low: "low-first" },
};
const NUMBERS = ["input", "address", "scale"];

/**
 * A register list from a table, whatever its columns are called: addresses in decimals or as 0x1B58, types as uint16 or
 * float, the table by its function code 3 or 4. What is not said is as the format has it. Every bad row is told.
 *
 * For example: { Register: "0x1B58", Format: "int32", Unit: "W", Quantity: "power" } is power, s32 at 7000 in W.
 *
 * @param rows From 1 below the heads; the number in a problem counts so.
 */
export function registersOfCsv(rows: readonly RegisterRow[]): RegisterCsvOutcome {
  const registers: Register[] = [];
  const problems: { row: number; message: string }[] = [];
  rows.forEach((row, at) => {
    const parsed = registerSchema.safeParse(registerOfRow(row));
    if (parsed.success) registers.push(parsed.data);
    else
      problems.push(
        ...parsed.error.issues.map(({ path, message }) => ({
          row: at + 1,
          message: `${path.join(".") || "the row"}: ${message}`,
        })),
      );
  });
  if (rows.length === 0) problems.push({ row: 1, message: "there is no row below the heads of the columns" });
  return problems.length > 0 ? { kind: "bad", problems } : { kind: "registers", registers };
}

/**
 * A kit's text with another register list, one line a register; comments and the rest stay as they are.
 *
 * For example: a kit without a list gets `registers:` at its end.
 *
 * @returns The text as it was where it is no YAML.
 */
export function withRegisters(text: string, registers: readonly Register[]): string {
  const document = parseDocument(text);
  if (document.errors.length > 0) return text;
  document.setIn(["registers"], document.createNode(registers.map(short)));
  const list = document.get("registers");
  if (isSeq(list)) for (const item of list.items) (item as { flow?: boolean }).flow = true;
  return document.toString({ lineWidth: 0, flowCollectionPadding: false });
}

function registerOfRow(row: RegisterRow): Record<string, unknown> {
  const register: Record<string, unknown> = {};
  for (const [head, cell] of Object.entries(row)) {
    const plain = head.toLowerCase().replace(/[^a-z]/g, "");
    const key = Object.keys(HEADS).find((own) => HEADS[own]!.includes(plain));
    const written = cell.trim();
    if (!key || written === "" || key in register) continue;
    const small = written.toLowerCase();
    const known = SAME[key];
    if (NUMBERS.includes(key)) register[key] = Number(written.replace(",", "."));
    else if (key === "unit" || key === "name") register[key] = written;
    else if (key === "phase") register[key] = written.toUpperCase();
    else register[key] = known && Object.hasOwn(known, small) ? known[small] : small.replace(/\s+/g, "-");
  }
  return register;
}

/** What is as usual is left out of a file. */
function short(register: Register): object {
  const usual: Partial<Register> = { wordOrder: "high-first", scale: 1, access: "read" };
  return Object.fromEntries(Object.entries(register).filter(([key, value]) => usual[key as keyof Register] !== value));
}
