import { rtuFrameAt, type RtuFrame } from "@/core/links/bus/rtuFrame";

const MOST_BYTES = 2_000_000;
/** `12.345 0B 03 …` or `(12) 0B03…`: with or without its time in s, which has decimals or stands in brackets. */
const LOG_LINE = /^\s*(?:(?:\((\d+(?:\.\d+)?)\)|(\d+\.\d+))[\s:;,]+)?((?:[0-9a-f]{2}\s*)+)$/i;
/** A request that comes so soon after one without an answer is another client's, s. */
const CROSSED_WITHIN_S = 0.05;
const LEAST_CROSSED = 2;
/** Of all bytes, how many may be outside good frames before the line counts as disturbed. */
const CLEAN_SHARE = 0.02;
/** From here on of bytes that are all zeros or all ones, the pair is rather exchanged than the speed another. */
const FLAT_SHARE = 0.4;
const LEAST_BYTES = 20;

/** A frame of a log with its time, s from the first byte; undefined where the log has none. */
export interface LoggedLineFrame extends RtuFrame {
  readonly atS: number | undefined;
}

/** One request with what came of it. */
export interface Exchange {
  readonly request: LoggedLineFrame;
  readonly answer: LoggedLineFrame | undefined;
  /** From the request to the answer, s, as far as both have a time. */
  readonly answerS: number | undefined;
}

/** What a log says of one device. */
export interface AskedUnit {
  readonly unit: number;
  readonly asked: number;
  readonly answered: number;
  readonly refused: number;
  readonly perSecond: number | undefined;
  /** The middle of its times to answer, s. */
  readonly answerS: number | undefined;
  /** Registers that it was asked for, as "3: 7000 + 2". */
  readonly registers: readonly string[];
}

/** What is wrong with the line, as far as its bytes tell. */
export type LineTrouble = "nothing-readable" | "pair-exchanged" | "disturbed" | "two-clients" | "refused" | "no-answer";

/** What the bytes of a serial line say. */
export interface LineLog {
  readonly frames: readonly LoggedLineFrame[];
  readonly exchanges: readonly Exchange[];
  readonly units: readonly AskedUnit[];
  /** Bytes that belong to no good frame. */
  readonly strayBytes: number;
  readonly bytes: number;
  readonly troubles: readonly { readonly kind: LineTrouble; readonly words: string }[];
  /** Lines of the text that are none of a log, from 1. */
  readonly unreadable: readonly number[];
}

/**
 * Read the bytes of a serial line: frames by their check, requests with their answers, who is asked how often, and what
 * is wrong.
 *
 * Text: a line of hexadecimal bytes, with the time of the first in s before it where there is one. Frames may be cut
 * over lines, or several stand in one.
 *
 * For example: "0.000 0B 03 1B 58 00 02 43 96" alone: unit 11 was asked once and did not answer.
 */
export function readLineLog(text: string): LineLog {
  const { bytes, timeOf, unreadable } = parsedBytes(text);
  const frames: LoggedLineFrame[] = [];
  let strayBytes = 0;
  for (let at = 0; at < bytes.length;) {
    const frame = rtuFrameAt(bytes, at);
    if (!frame) strayBytes++;
    else frames.push({ ...frame, atS: timeOf(at) });
    at += frame?.length ?? 1;
  }
  const exchanges = paired(frames);
  const units = askedUnits(exchanges);
  return {
    frames,
    exchanges,
    units,
    strayBytes,
    bytes: bytes.length,
    troubles: troublesOf({ bytes, frames, strayBytes, exchanges, units }),
    unreadable,
  };
}

function parsedBytes(text: string): {
  readonly bytes: Uint8Array;
  /** Of the byte at a place, never before the one that was asked for last. */
  readonly timeOf: (at: number) => number | undefined;
  readonly unreadable: readonly number[];
} {
  const values: number[] = [];
  const starts: { readonly at: number; readonly timeS: number }[] = [];
  const unreadable: number[] = [];
  for (const [index, line] of text.split(/\r?\n/).entries()) {
    if (line.trim() === "" || line.trim().startsWith("#")) continue;
    const [, inBrackets, bare, hex] = LOG_LINE.exec(line) ?? [];
    const time = inBrackets ?? bare;
    if (hex === undefined || values.length > MOST_BYTES) {
      unreadable.push(index + 1);
      continue;
    }
    if (time !== undefined) starts.push({ at: values.length, timeS: Number(time) });
    for (const pair of hex.replace(/\s/g, "").match(/../g) ?? []) values.push(Number.parseInt(pair, 16));
  }
  // Asked for in the order of the bytes: a long log is gone through once.
  let next = 0;
  const timeOf = (at: number): number | undefined => {
    while (starts[next] !== undefined && starts[next]!.at <= at) next++;
    return starts[next - 1]?.timeS;
  };
  return { bytes: Uint8Array.from(values), timeOf, unreadable };
}

/** Each request with the first answer of its device that follows before the next request. */
function paired(frames: readonly LoggedLineFrame[]): readonly Exchange[] {
  const exchanges: Exchange[] = [];
  let open: LoggedLineFrame | undefined;
  const close = (answer?: LoggedLineFrame) => {
    if (!open) return;
    const answerS = answer?.atS === undefined || open.atS === undefined ? undefined : answer.atS - open.atS;
    exchanges.push({ request: open, answer, answerS });
    open = undefined;
  };
  for (const frame of frames) {
    const isOfOpen = open?.unit === frame.unit && open.code === frame.code;
    if (frame.kind === "reply" || frame.kind === "exception") {
      if (isOfOpen) close(frame);
    } else if (frame.kind === "request-or-reply" && isOfOpen && open!.address === frame.address) close(frame);
    else {
      close();
      open = frame;
    }
  }
  close();
  return exchanges;
}

function askedUnits(exchanges: readonly Exchange[]): readonly AskedUnit[] {
  const times = exchanges.flatMap(({ request }) => (request.atS === undefined ? [] : [request.atS]));
  const spanS = times.length > 1 ? times.at(-1)! - times[0]! : 0;
  const units = [...new Set(exchanges.map(({ request }) => request.unit))].toSorted((a, b) => a - b);
  return units.map((unit): AskedUnit => {
    const own = exchanges.filter(({ request }) => request.unit === unit);
    const answers = own.flatMap(({ answerS }) => (answerS === undefined ? [] : [answerS])).toSorted((a, b) => a - b);
    return {
      unit,
      asked: own.length,
      answered: own.filter(({ answer }) => answer && answer.kind !== "exception").length,
      refused: own.filter(({ answer }) => answer?.kind === "exception").length,
      perSecond: spanS > 0 ? own.length / spanS : undefined,
      answerS: answers[Math.floor(answers.length / 2)],
      registers: [...new Set(own.map(({ request: { code, address, count } }) => `${code}: ${address} + ${count}`))],
    };
  });
}

type Seen = Pick<LineLog, "frames" | "strayBytes" | "exchanges" | "units"> & { readonly bytes: Uint8Array };

function troublesOf(seen: Seen): LineLog["troubles"] {
  const { bytes, frames, strayBytes, exchanges, units } = seen;
  if (bytes.length >= LEAST_BYTES && frames.length === 0) return [unreadableLine(bytes)];
  const crossed = exchanges.filter(({ request, answer }, at) => {
    const next = exchanges[at + 1]?.request;
    if (answer || next?.atS === undefined || request.atS === undefined) return false;
    return next.atS - request.atS < CROSSED_WITHIN_S;
  }).length;
  const silent = units.filter(({ asked, answered, refused }) => asked > 0 && answered + refused === 0);
  const refused = units.filter((unit) => unit.refused > 0);
  const named = (list: readonly AskedUnit[]) => list.map(({ unit }) => unit).join(", ");
  return [
    ...(strayBytes > CLEAN_SHARE * bytes.length
      ? [
          {
            kind: "disturbed" as const,
            words:
              `${strayBytes} of ${bytes.length} bytes are in no frame with a right check: terminators, bias, or two ` +
              "that talk at once",
          },
        ]
      : []),
    ...(crossed >= LEAST_CROSSED
      ? [
          {
            kind: "two-clients" as const,
            words: `${crossed} requests came while another was still to be answered: two clients ask on this line`,
          },
        ]
      : []),
    ...(silent.length > 0
      ? [
          {
            kind: "no-answer" as const,
            words: `Unit ${named(silent)} was asked and never answered: address, power, or its cores`,
          },
        ]
      : []),
    ...(refused.length > 0
      ? [
          {
            kind: "refused" as const,
            words: `Unit ${named(refused)} refused what it was asked: another list of registers than it has`,
          },
        ]
      : []),
  ];
}

/** No frame at all: a pair that is exchanged turns every bit round, and rest into a long zero. */
function unreadableLine(bytes: Uint8Array): LineLog["troubles"][number] {
  const flat = bytes.filter((byte) => byte === 0x00 || byte === 0xff).length / bytes.length;
  return flat >= FLAT_SHARE
    ? {
        kind: "pair-exchanged",
        words:
          "No frame has a right check, and most bytes are all zeros or all ones: exchange A and B at this adapter, " +
          "then look at the speed",
      }
    : {
        kind: "nothing-readable",
        words: "No frame has a right check: another speed or parity than the line has; try the kits' own first",
      };
}
