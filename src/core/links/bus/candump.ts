import { frameBits } from "@/core/links/bus/can";

const MAX_LINES = 200_000;
/** A cyclic frame counts as missing when it is silent for this many of its periods. */
const SILENT_PERIODS = 3;
const LINE = /^\s*\((\d+(?:\.\d+)?)\)\s+(\S+)\s+([0-9A-Fa-f]{3}|[0-9A-Fa-f]{8})#(R?)([0-9A-Fa-f]{0,16})\s*([RT])?\s*$/;

/** A frame of a log: its time in s, identifier and bytes. */
export interface LoggedFrame {
  readonly timeS: number;
  readonly channel: string;
  readonly id: number;
  readonly isExtended: boolean;
  readonly bytes: number;
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
  readonly frames: number;
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
 * Read a log in candump's text form, `(time) channel id#data`, a frame a line. Lines that are none are listed, not
 * lost.
 *
 * @example readCandump("(1.5) can0 6C0#0102").frames[0] // { timeS: 1.5, channel: "can0", id: 0x6c0, isExtended:
 * false, bytes: 2 }
 */
export function readCandump(text: string): {
  readonly frames: readonly LoggedFrame[];
  readonly unreadable: readonly number[];
} {
  const frames: LoggedFrame[] = [];
  const unreadable: number[] = [];
  text
    .split(/\r?\n/)
    .slice(0, MAX_LINES)
    .forEach((line, at) => {
      if (line.trim() === "") return;
      const match = LINE.exec(line);
      const data = match?.[5] ?? "";
      if (!match || data.length % 2 !== 0) {
        unreadable.push(at + 1);
        return;
      }
      frames.push({
        timeS: Number(match[1]),
        channel: match[2]!,
        id: Number.parseInt(match[3]!, 16),
        isExtended: match[3]!.length === 8,
        bytes: data.length / 2,
      });
    });
  return { frames, unreadable };
}

/** Frames as candump writes them, data left as zeros where only the length is known. */
export function writeCandump(frames: readonly LoggedFrame[]): string {
  return frames
    .map(
      ({ timeS, channel, id, isExtended, bytes }) =>
        `(${timeS.toFixed(6)}) ${channel} ${id
          .toString(16)
          .toUpperCase()
          .padStart(isExtended ? 8 : 3, "0")}#${"00".repeat(bytes)}\n`,
    )
    .join("");
}

/**
 * What a log says of a bus: load with the most stuffing, rate of every identifier, and which expected frames are
 * missing
 * or fell silent, with the time of the last one. A battery that shut itself down shows as its frames ending.
 *
 * For example: With the battery's frames expected once a second and the last at 41.2 s of 60: silentS 18.8.
 */
export function judgeCanLog(text: string, bitrate: number, expected: readonly ExpectedFrame[]): CanLog {
  const { frames, unreadable } = readCandump(text);
  const firstS = frames.reduce((least, frame) => Math.min(least, frame.timeS), Infinity);
  const endS = frames.reduce((most, frame) => Math.max(most, frame.timeS), -Infinity);
  const durationS = frames.length > 1 ? endS - firstS : 0;
  const byId = new Map<string, LoggedFrame[]>();
  for (const frame of frames) {
    const key = `${frame.isExtended} ${frame.id}`;
    byId.set(key, [...(byId.get(key) ?? []), frame]);
  }
  const lines = [...byId.values()]
    .map((own): CanLogLine => {
      const [start, end] = [own[0]!.timeS - firstS, own.at(-1)!.timeS - firstS];
      return {
        id: own[0]!.id,
        isExtended: own[0]!.isExtended,
        name: expected.find((frame) => frame.id === own[0]!.id)?.name,
        count: own.length,
        perSecond: end > start ? (own.length - 1) / (end - start) : 0,
        firstS: start,
        lastS: end,
      };
    })
    .toSorted((a, b) => a.id - b.id);
  const missing = expected.flatMap((frame) => {
    const line = lines.find((candidate) => candidate.id === frame.id);
    const silentS = line ? durationS - line.lastS : durationS;
    return silentS > SILENT_PERIODS / frame.perSecond || !line ? [{ frame, lastS: line?.lastS, silentS }] : [];
  });
  const bits = frames.reduce((sum, frame) => sum + frameBits(frame.bytes, frame.isExtended), 0);
  return {
    frames: frames.length,
    durationS,
    busLoadPct: durationS > 0 ? (100 * bits) / (durationS * bitrate) : 0,
    lines,
    missing: frames.length === 0 ? [] : missing,
    unreadable,
  };
}
