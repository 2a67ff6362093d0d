/** Whether a client asks, or a device answers, refuses, or sends what could be either (an echoed write). */
export type RtuKind = "request" | "reply" | "exception" | "request-or-reply";

/** A frame of Modbus over a serial line (Modbus Application Protocol 1.1b3, Serial Line 1.02). */
export interface RtuFrame {
  readonly kind: RtuKind;
  readonly unit: number;
  /** Without the mark of an exception. */
  readonly code: number;
  /** First register, and how many; undefined where the frame does not say. */
  readonly address: number | undefined;
  readonly count: number | undefined;
  /** Why it was refused. */
  readonly exception: number | undefined;
  /** Bytes of the whole frame, its check included. */
  readonly length: number;
}

const POLYNOMIAL = 0xa001;
const EXCEPTION_MARK = 0x80;
const MOST_UNIT = 247;
const READS = [1, 2, 3, 4];
const SINGLE_WRITES = [5, 6];
const BLOCK_WRITES = [15, 16];
const MOST_REGISTERS = 125;
const MOST_BITS = 2000;

/** The registers of the check, byte by byte, computed once. */
const TABLE = Uint16Array.from({ length: 256 }, (_, byte) => {
  let crc = byte;
  for (let bit = 0; bit < 8; bit++) crc = crc & 1 ? (crc >> 1) ^ POLYNOMIAL : crc >> 1;
  return crc;
});

/**
 * The check of Modbus RTU over bytes: CRC-16 with the polynomial x¹⁶ + x¹⁵ + x² + 1, reflected, from 0xFFFF; the low
 * byte is sent first.
 *
 * @example rtuCheck(Uint8Array.of(0x01, 0x04, 0x02, 0xff, 0xff)) // 0x80b8
 */
export function rtuCheck(bytes: Uint8Array, from = 0, to = bytes.length): number {
  let crc = 0xffff;
  for (let at = from; at < to; at++) crc = (crc >> 8) ^ TABLE[(crc ^ bytes[at]!) & 0xff]!;
  return crc;
}

/**
 * The frame that begins at a place of a line's bytes; undefined where none does whose check is right.
 *
 * For example: the eight bytes 0B 03 1B 58 00 02 and their check: unit 11 is asked for 2 registers from 7000.
 */
export function rtuFrameAt(bytes: Uint8Array, at: number): RtuFrame | undefined {
  const unit = bytes[at];
  const function_ = bytes[at + 1];
  if (unit === undefined || function_ === undefined || unit > MOST_UNIT) return undefined;
  const isException = function_ >= EXCEPTION_MARK;
  const code = function_ & ~EXCEPTION_MARK;
  if (![...READS, ...SINGLE_WRITES, ...BLOCK_WRITES].includes(code)) return undefined;
  return candidates(bytes, at, code, isException).find(({ length }) => hasCheck(bytes, at, length));
}

function hasCheck(bytes: Uint8Array, at: number, length: number): boolean {
  const end = at + length;
  if (end > bytes.length) return false;
  return rtuCheck(bytes, at, end - 2) === (bytes[end - 2]! | (bytes[end - 1]! << 8));
}

/** What a frame of this function can be, longest first: a long one that checks is no short one by chance. */
function candidates(bytes: Uint8Array, at: number, code: number, isException: boolean): readonly RtuFrame[] {
  const unit = bytes[at]!;
  const word = (offset: number) => (bytes[at + offset]! << 8) | bytes[at + offset + 1]!;
  const frame = (kind: RtuKind, length: number, more: Partial<RtuFrame> = {}): RtuFrame => ({
    kind,
    unit,
    code,
    address: undefined,
    count: undefined,
    exception: undefined,
    length,
    ...more,
  });
  if (isException) return [frame("exception", 5, { exception: bytes[at + 2] })];
  if (SINGLE_WRITES.includes(code)) return [frame("request-or-reply", 8, { address: word(2), count: 1 })];
  if (BLOCK_WRITES.includes(code))
    return [
      frame("request", 9 + (bytes[at + 6] ?? 0), { address: word(2), count: word(4) }),
      frame("reply", 8, { address: word(2), count: word(4) }),
    ];
  const size = bytes[at + 2] ?? 0;
  const most = code <= 2 ? MOST_BITS : MOST_REGISTERS;
  const count = word(4);
  return [
    frame("reply", 5 + size, code <= 2 ? {} : { count: size / 2 }),
    ...(count >= 1 && count <= most ? [frame("request", 8, { address: word(2), count })] : []),
  ].toSorted((a, b) => b.length - a.length);
}
