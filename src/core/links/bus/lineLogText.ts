import type { LineLog, LoggedLineFrame } from "@/core/links/bus/lineLog";
import type { PlanLink } from "@/core/plan/resolvedPlan";

/** What a function code does (Modbus Application Protocol 1.1b3). */
const CODE_WORDS: Readonly<Record<number, string>> = {
  1: "coils",
  2: "discrete inputs",
  3: "holding registers",
  4: "input registers",
  5: "write a coil",
  6: "write a register",
  15: "write coils",
  16: "write registers",
};
const EXCEPTION_WORDS: Readonly<Record<number, string>> = {
  1: "this function is not there",
  2: "this register is not there",
  3: "this value is not taken",
  4: "the device failed",
  5: "it takes a while",
  6: "the device is busy",
};

/** The devices of serial lines by their bus addresses, as the plan has them. */
export function unitNames(links: readonly PlanLink[]): ReadonlyMap<number, string> {
  return new Map(
    links
      .filter(({ kind }) => kind === "rs485")
      .flatMap(({ ends }) =>
        ends.flatMap(({ member, device }) =>
          member.address === undefined || !device ? [] : [[member.address, device.name] as const],
        ),
      ),
  );
}

/**
 * A frame in words.
 *
 * For example: a request to unit 11, which is the grid meter, gives "asks Grid meter (11): holding registers 7000 + 2".
 */
export function lineFrameText(frame: LoggedLineFrame, names: ReadonlyMap<number, string>): string {
  const { kind, unit, code, address, count, exception } = frame;
  const named = names.get(unit);
  const who = named === undefined ? `unit ${unit}` : `${named} (${unit})`;
  const what = CODE_WORDS[code] ?? `function ${code}`;
  const where = address === undefined ? "" : ` ${address}${count === undefined ? "" : ` + ${count}`}`;
  switch (kind) {
    case "request":
      return `asks ${who}: ${what}${where}`;
    case "reply":
      return `${who} answers: ${what}${where}${address === undefined && count !== undefined ? `, ${count}` : ""}`;
    case "exception":
      return `${who} refuses: ${EXCEPTION_WORDS[exception ?? 0] ?? `exception ${exception ?? 0}`} (${what})`;
    case "request-or-reply":
      return `${who}: ${what}${where}`;
  }
}

/** A log in words, a frame a line, with its time where it has one: to be kept, or sent to somebody. */
export function lineLogText(log: LineLog, names: ReadonlyMap<number, string>): string {
  return [
    ...log.troubles.map(({ words }) => `# ${words}`),
    ...log.frames.map((frame) => {
      const time = frame.atS === undefined ? "" : `${frame.atS.toFixed(3)} `;
      return time + lineFrameText(frame, names);
    }),
  ].join("\n");
}
