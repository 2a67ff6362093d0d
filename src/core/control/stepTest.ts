import { judgeExport } from "@/core/simulation/judgeExport";
import type { ExportLimiter } from "@/core/control/exportLimiter";
import type { LimitProof, LimitSettings } from "@/core/plan/limitSettings";
import { decimalSignOf, readNumber, withPoint, type DecimalSign } from "@/core/readNumber";
import type { SiteNode } from "@/core/site/planSchema";
import { threeDigits, typedPower } from "@/core/units";

const MOST_POINTS = 600;
/** Within this part of what is set, and at least so many W, the limiter has something to do. */
const REACH_SHARE = 0.15;
const REACH_LEAST_W = 100;
/** Time to watch beyond what the rule allows, s. */
const WATCH_MORE_S = 30;
const CLOCK = /^(?:.*[ T])?(\d{1,2}):(\d{2})(?::(\d{2}(?:\.\d+)?))?(?:Z|[+-]\d{2}:?\d{2})?$/;
const TWO_WAYS = "Its commas can be read in two ways: leave out what stands between thousands";

/** A recording of the grid over time: positive when exporting. */
export interface Recording {
  readonly tS: readonly number[];
  readonly exportW: readonly number[];
}

/**
 * The step test of a site, in sentences: what to switch on first, what to switch off, how long to watch and what to
 * write down.
 *
 * For example: With a kettle in the plan: "Switch Kettle on and wait until the grid stands still."
 */
export function stepTestRecipe(
  limit: LimitSettings,
  limiter: ExportLimiter,
  loads: readonly SiteNode[],
): readonly string[] {
  const largest = loads.toSorted((a, b) => (b.ratedW ?? 0) - (a.ratedW ?? 0))[0];
  const load = largest ? `${largest.name} (${threeDigits(largest.ratedW ?? 0)} W)` : "the largest load of the house";
  const limitW = limit.powerW ?? 0;
  const watchS = Math.ceil(limit.secondsAllowed + WATCH_MORE_S);
  const totalW = limiter.inverters.reduce((sum, { ratedW }) => sum + (ratedW ?? 0), 0);
  return [
    "In sun: the inverters must be able to make more than the limit and the house together, so more than " +
      `${threeDigits(limitW)} W of ${threeDigits(totalW)} W`,
    `Write down the grid at ${limiter.meter.name} or at the supply meter once a second, or let it be recorded`,
    `Switch ${load} on, and wait until the grid stands still for 20 s`,
    `Switch it off, and watch for ${watchS} s: above ${threeDigits(limitW)} W for at most ${limit.secondsAllowed} ` +
      "s, then within it without swinging",
    "Pull the meter's data plug, and write down the seconds until the inverters are at their fallback; put it back",
  ];
}

/**
 * A recording judged by the same rule and code as the simulation, thinned to be kept. One whose export never came near
 * the
 * set-point says nothing about the limiter: it is untested, however calm it looks.
 *
 * For example: A steady 4850 W under a limit of 12 000 W: untested; under 5000 W: holds.
 */
export function judgedProof(
  recording: Recording,
  limit: LimitSettings,
  about: Pick<LimitProof, "id" | "at" | "person" | "label">,
): LimitProof {
  const judged = judgeExport(
    recording,
    { powerW: limit.powerW ?? 0, secondsAllowed: limit.secondsAllowed },
    limit.deadBandW,
  );
  const setW = Math.min(limit.powerW ?? 0, limit.setPointW ?? Infinity);
  const isTested = judged.maxExportW >= setW - Math.max(REACH_SHARE * setW, REACH_LEAST_W, limit.deadBandW);
  const every = Math.max(1, Math.ceil(recording.tS.length / MOST_POINTS));
  const thin = (values: readonly number[]) => values.filter((_, at) => at % every === 0);
  return {
    ...about,
    limitW: limit.powerW ?? 0,
    secondsAllowed: limit.secondsAllowed,
    basis: limit.basis,
    tS: thin(recording.tS),
    exportW: thin(recording.exportW),
    verdict: judged.verdict === "holds" && !isTested ? "untested" : judged.verdict,
    maxExportW: judged.maxExportW,
    longestOverS: judged.longestOverS,
    settledExportW: judged.settledExportW,
  };
}

/** The newest proof of the limit as it is now; one of another limit, basis or time proves nothing about it. */
export function standingProof({ powerW, basis, secondsAllowed, proofs }: LimitSettings): LimitProof | undefined {
  return proofs.findLast(
    (proof) => proof.limitW === powerW && proof.basis === basis && proof.secondsAllowed === secondsAllowed,
  );
}

/** A recording, or every row that could not be read. */
export type RecordingOutcome =
  | { readonly kind: "recording"; readonly recording: Recording }
  | { readonly kind: "bad"; readonly problems: readonly string[] };

/**
 * Rows of an imported file as a recording: times as seconds, or as clock times or dates; powers with point or comma,
 * in W or with kW. Rows that make no sense are told by their number, all at once.
 *
 * For example: Rows with "12:00:00" and "12:00:01": tS [0, 1].
 *
 * @param rows As parsed, by column name.
 */
export function recordingOfRows(
  rows: readonly Readonly<Record<string, string>>[],
  columns: { readonly time: string; readonly power: string; readonly isExportPositive: boolean },
): RecordingOutcome {
  const problems: string[] = [];
  const column = (name: string) => rows.map((row) => row[name] ?? "");
  const timeSign = decimalSignOf(column(columns.time).filter((text) => !text.includes(":")));
  const powerSign = decimalSignOf(column(columns.power));
  if (timeSign === undefined || powerSign === undefined) return { kind: "bad", problems: [TWO_WAYS] };
  const points = rows
    .flatMap((row, at) => {
      const t = secondsOf(row[columns.time] ?? "", timeSign);
      const watts = wattsOf(row[columns.power] ?? "", powerSign);
      if (t === undefined || watts === undefined) {
        const isTime = t === undefined;
        const read = row[isTime ? columns.time : columns.power] ?? "";
        problems.push(`Row ${at + 2}: “${read}” is no ${isTime ? "time" : "power"}`);
        return [];
      }
      return [{ t, exportW: columns.isExportPositive ? watts : -watts }];
    })
    .toSorted((a, b) => a.t - b.t);
  if (problems.length > 0) return { kind: "bad", problems };
  if (points.length < 3) return { kind: "bad", problems: ["A recording has at least three rows"] };
  const first = points[0]!.t;
  return {
    kind: "recording",
    recording: { tS: points.map(({ t }) => t - first), exportW: points.map(({ exportW }) => exportW) },
  };
}

function secondsOf(text: string, decimal: DecimalSign): number | undefined {
  const read = readNumber(withPoint(text, decimal), "point");
  if (read.kind === "number") return read.value;
  const clock = CLOCK.exec(text.trim().replace(",", "."));
  return clock ? Number(clock[1]) * 3600 + Number(clock[2]) * 60 + Number(clock[3] ?? 0) : undefined;
}

function wattsOf(text: string, decimal: DecimalSign): number | undefined {
  const read = typedPower(withPoint(text, decimal), "point");
  return read.kind === "power" ? read.powerW : undefined;
}
