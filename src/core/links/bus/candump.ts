import { frameBits } from "@/core/links/bus/can";

const MAX_LINES = 200_000;
/** A cyclic frame counts as missing when it is silent for this many of its periods. */
const SILENT_PERIODS = 3;
const BEGINNING = String.raw`^\s*\((\d+(?:\.\d+)?)\)\s+(\S+)\s+`;
const ID = "([0-9A-Fa-f]{3}|[0-9A-Fa-f]{8})";
const PAIR = "[0-9A-Fa-f]{2}";
/** `(time) channel id#data`: data in pairs, `#R` and a length for a request, `##` and a digit of flags for CAN FD. */
const LOG_LINE = new RegExp(
  String.raw`${BEGINNING}${ID}#(?:R([0-9A-Fa-f]?)|(#[0-9A-Fa-f])?((?:${PAIR}\.?)*)(?:_[0-9A-Fa-f])?)\s*(?:[RT]\s*)?$`,
);
/** `(time)  channel  id   [8]  00 11 …`, as it stands on a screen; two digits in the brackets are CAN FD. */
const SCREEN_LINE = new RegExp(
  String.raw`${BEGINNING}(?:[RT]X\s+\S+\s+\S+\s+)?${ID}\s+\[(\d{1,2})\]\s*` +
    String.raw`((?:${PAIR}\s*)*|remote request)\s*(?:'.*'|ERRORFRAME)?\s*$`,
);
/** Bits of an identifier that are no identifier (Linux, SocketCAN): an error frame, and what went wrong. */
const ERROR_FLAG = 0x20000000;
const ERROR_WORDS: readonly (readonly [bit: number, words: string])[] = [
  [0x001, "could not be sent in time"],
  [0x002, "lost arbitration"],
  [0x004, "controller in trouble"],
  [0x008, "protocol violated"],
  [0x010, "transceiver in trouble"],
  [0x020, "nobody acknowledged"],
  [0x040, "bus off"],
  [0x080, "bus error"],
  [0x100, "controller restarted"],
];
const MOST_BYTES = { classic: 8, fd: 64 } as const;

/** A frame of a log: its time in s, identifier and bytes. */
export interface LoggedFrame {
  readonly timeS: number;
  readonly channel: string;
  readonly id: number;
  readonly isExtended: boolean;
  readonly bytes: number;
  /** A request for data, CAN FD, or what the controller itself says of the bus. */
  readonly kind: "data" | "request" | "fd" | "error";
}

/** A frame that ought to come again and again. */
export interface ExpectedFrame {
  readonly id: number;
  readonly perSecond: number;
  readonly name: string;
  /** Who sends it. */
  readonly sender: string;
}

/** What a log says of one identifier, with its rate a second. */
export interface CanLogLine {
  readonly id: number;
  readonly isExtended: boolean;
  readonly name: string | undefined;
  readonly count: number;
  readonly perSecond: number;
  readonly firstS: number;
  readonly lastS: number;
}

/** What a log says of a bus. */
export interface CanLog {
  /** Without those in which the controller itself speaks. */
  readonly frames: number;
  readonly errorFrames: number;
  readonly errors: readonly { readonly words: string; readonly count: number }[];
  readonly durationS: number;
  readonly busLoadPct: number;
  readonly lines: readonly CanLogLine[];
  /** Expected frames that never came, or fell silent before the end. */
  readonly missing: readonly {
    readonly frame: ExpectedFrame;
    readonly lastS: number | undefined;
    readonly silentS: number;
  }[];
  /** Lines of the text that are none of a log, from 1. */
  readonly unreadable: readonly number[];
}

/**
 * Read a log in the text forms of candump, a frame a line: `(time) channel id#data` with requests, CAN FD and error
 * frames, and what it writes on a screen. Lines that are none are listed, not lost.
 *
 * @example readCandump("(1.5) can0 6C0#0102").frames[0]
 * // { timeS: 1.5, channel: "can0", id: 0x6c0, isExtended: false, bytes: 2, kind: "data" }
 */
export function readCandump(text: string): {
  readonly frames: readonly LoggedFrame[];
  readonly unreadable: readonly number[];
} {
  const frames: LoggedFrame[] = [];
  const unreadable: number[] = [];
  const lines = text.split("\n", MAX_LINES);
  for (const [at, line] of lines.entries()) {
    if (line.trim() === "") continue;
    const frame = logFrame(line) ?? screenFrame(line);
    if (frame) frames.push(frame);
    else unreadable.push(at + 1);
  }
  return { frames, unreadable };
}

function logFrame(line: string): LoggedFrame | undefined {
  const match = LOG_LINE.exec(line);
  if (!match) return undefined;
  const [, time, channel, id, request, flags, data = ""] = match;
  const pairs = data.replaceAll(".", "");
  if (request !== undefined) return frameOf(time!, channel!, id!, 0, "request");
  return frameOf(time!, channel!, id!, pairs.length / 2, flags === undefined ? "data" : "fd");
}

function screenFrame(line: string): LoggedFrame | undefined {
  const match = SCREEN_LINE.exec(line);
  if (!match) return undefined;
  const [, time, channel, id, length, data = ""] = match;
  const bytes = data.replaceAll(/\s/g, "").length / 2;
  if (data === "remote request") return frameOf(time!, channel!, id!, 0, "request");
  if (bytes !== Number(length)) return undefined;
  return frameOf(time!, channel!, id!, bytes, length!.length === 2 ? "fd" : "data");
}

/** Undefined where it has more bytes than its kind can. */
function frameOf(
  time: string,
  channel: string,
  id: string,
  bytes: number,
  kind: LoggedFrame["kind"],
): LoggedFrame | undefined {
  const number = Number.parseInt(id, 16);
  const isExtended = id.length === 8;
  if (bytes > (kind === "fd" ? MOST_BYTES.fd : MOST_BYTES.classic)) return undefined;
  const isError = isExtended && (number & ERROR_FLAG) !== 0;
  return {
    timeS: Number(time),
    channel,
    id: isError ? number & ~ERROR_FLAG : number,
    isExtended,
    bytes,
    kind: isError ? "error" : kind,
  };
}

/** Frames as candump writes them to a file, data left as zeros where only the length is known. */
export function writeCandump(frames: readonly LoggedFrame[]): string {
  return frames
    .map(({ timeS, channel, id, isExtended, bytes, kind }) => {
      const number = kind === "error" ? id + ERROR_FLAG : id;
      const name = number
        .toString(16)
        .toUpperCase()
        .padStart(isExtended ? 8 : 3, "0");
      const data = kind === "request" ? "#R" : `${kind === "fd" ? "##0" : "#"}${"00".repeat(bytes)}`;
      return `(${timeS.toFixed(6)}) ${channel} ${name}${data}\n`;
    })
    .join("");
}

/**
 * What a log says of a bus: load with the most stuffing, rate of every identifier, and which expected frames are
 * missing or fell silent, with the time of the last one. A battery that shut itself down shows as its frames ending.
 *
 * For example: With the battery's frames expected once a second and the last at 41.2 s of 60: silentS 18.8.
 */
export function judgeCanLog(text: string, bitrate: number, expected: readonly ExpectedFrame[]): CanLog {
  const { frames, unreadable } = readCandump(text);
  const seen = new Map<string, Seen>();
  const errors = new Map<string, number>();
  let [firstS, endS, bits, errorFrames] = [Infinity, -Infinity, 0, 0];
  for (const frame of frames) {
    firstS = Math.min(firstS, frame.timeS);
    endS = Math.max(endS, frame.timeS);
    if (frame.kind === "error") {
      errorFrames++;
      for (const words of errorWords(frame.id)) errors.set(words, (errors.get(words) ?? 0) + 1);
      continue;
    }
    bits += frameBits(frame.bytes, frame.isExtended);
    const key = `${frame.isExtended} ${frame.id}`;
    const own = seen.get(key);
    if (own) {
      own.count++;
      own.firstS = Math.min(own.firstS, frame.timeS);
      own.lastS = Math.max(own.lastS, frame.timeS);
    } else seen.set(key, { frame, count: 1, firstS: frame.timeS, lastS: frame.timeS });
  }
  const durationS = frames.length > 1 ? endS - firstS : 0;
  const nameOf = new Map(expected.map(({ id, name }) => [id, name]));
  const lines = [...seen.values()]
    .map(({ frame: { id, isExtended }, count, ...own }): CanLogLine => ({
      id,
      isExtended,
      name: nameOf.get(id),
      count,
      perSecond: own.lastS > own.firstS ? (count - 1) / (own.lastS - own.firstS) : 0,
      firstS: own.firstS - firstS,
      lastS: own.lastS - firstS,
    }))
    .toSorted((a, b) => a.id - b.id);
  const missing = expected.flatMap((frame) => {
    const line = lines.find((candidate) => candidate.id === frame.id);
    const silentS = line ? durationS - line.lastS : durationS;
    return silentS > SILENT_PERIODS / frame.perSecond || !line ? [{ frame, lastS: line?.lastS, silentS }] : [];
  });
  return {
    frames: frames.length - errorFrames,
    errorFrames,
    errors: [...errors].map(([words, count]) => ({ words, count })).toSorted((a, b) => b.count - a.count),
    durationS,
    busLoadPct: durationS > 0 ? (100 * bits) / (durationS * bitrate) : 0,
    lines,
    missing: frames.length === 0 ? [] : missing,
    unreadable,
  };
}

/** What of one identifier was met so far. */
interface Seen {
  readonly frame: LoggedFrame;
  count: number;
  firstS: number;
  lastS: number;
}

function errorWords(id: number): readonly string[] {
  const words = ERROR_WORDS.flatMap(([bit, text]) => ((id & bit) === 0 ? [] : [text]));
  return words.length > 0 ? words : ["of a kind that it does not name"];
}
