import { judgeExport } from "@/core/simulation/judgeExport";
import type { ExportLimiter } from "@/core/control/exportLimiter";
import { phaseSchema, type Phase } from "@/core/phase";
import type { LimitProof, LimitSettings, PhaseProof } from "@/core/plan/limitSettings";
import { askUnit, headerUnit } from "@/core/headerUnit";
import { decimalSignOf, readNumber, withPoint, type DecimalSign } from "@/core/readNumber";
import { phasesOfSupply } from "@/core/site/phasors";
import type { SiteNode, Supply } from "@/core/site/planSchema";
import { threeDigits, typedPower } from "@/core/units";
import { joined } from "@/core/words";

const MOST_POINTS = 600;
/** Within this part of what is set, and at least so many W, the limiter has something to do. */
const REACH_SHARE = 0.15;
const REACH_LEAST_W = 100;
/** Time to watch beyond what the rule allows, s. */
const WATCH_MORE_S = 30;
/** Nearer to the limit than this, nothing is held back on any day. */
const REACHABLE_SHARE = 0.95;
/** What the limit is lowered to for a test, of what the inverters make at most. */
const TEST_SHARE = 0.5;
const CLOCK = /^(?:.*[ T])?(\d{1,2}):(\d{2})(?::(\d{2}(?:\.\d+)?))?(?:Z|[+-]\d{2}:?\d{2})?$/;
const TWO_WAYS = "Its commas can be read in two ways: leave out what stands between thousands";

/** A recording of the grid over time: positive when exporting. */
export interface Recording {
  readonly tS: readonly number[];
  /** The sum, or the worst of the phases that were recorded. */
  readonly exportW: readonly number[];
  /** Each phase that was recorded, where the limit is on each. */
  readonly phaseW?: Readonly<Partial<Record<Phase, readonly number[]>>>;
}

/** What is judged: the limit as it is set. */
type Held = Pick<LimitSettings, "powerW" | "secondsAllowed" | "deadBandW" | "setPointW">;

/**
 * The step test of a site, in sentences: what to switch on first, what to switch off, how long to watch and what to
 * write down. Where the inverters cannot make as much as the limit lets out, it is lowered for the test.
 *
 * For example: With a kettle in the plan: "Switch Kettle on and wait until the grid stands still."
 */
export function stepTestRecipe(
  limit: LimitSettings,
  limiter: ExportLimiter,
  loads: readonly SiteNode[],
  supply: Supply,
): readonly string[] {
  const largest = loads.toSorted((a, b) => (b.ratedW ?? 0) - (a.ratedW ?? 0))[0];
  const load = largest ? `${largest.name} (${threeDigits(largest.ratedW ?? 0)} W)` : "the largest load of the house";
  const limitW = limit.powerW ?? 0;
  const watchS = Math.ceil(limit.secondsAllowed + WATCH_MORE_S);
  const isOnEach = limit.basis === "per-phase";
  const meter = limiter.meter.name;
  return [
    ...sunLines(limit, limiter, supply),
    isOnEach
      ? `Write down every phase of the grid at ${meter} once a second, or let it be recorded: one phase alone proves ` +
        "one phase"
      : `Write down the grid at ${meter} or at the supply meter once a second, or let it be recorded`,
    `Switch ${load} on, and wait until the grid stands still for 20 s`,
    `Switch it off, and watch for ${watchS} s: above ${threeDigits(limitW)} W${isOnEach ? " on any phase" : ""} for ` +
      `at most ${limit.secondsAllowed} s, then within it without swinging`,
    ...(isOnEach && phasesOfSupply(supply).length > 1 ? ["The same with a load on each of the other phases"] : []),
    "Pull the meter's data plug, and write down the seconds until the inverters are at their fallback; put it back",
  ];
}

/** What the sun must be able to give; where that is never enough, by how much the limit is lowered for the test. */
function sunLines(limit: LimitSettings, { inverters }: ExportLimiter, supply: Supply): readonly string[] {
  const limitW = limit.powerW ?? 0;
  const canW = (phase?: Phase) =>
    inverters.reduce((sum, { ratedW = 0, phases = phasesOfSupply(supply) }) => {
      if (phase === undefined) return sum + ratedW;
      return sum + (phases.includes(phase) ? ratedW / phases.length : 0);
    }, 0);
  const places =
    limit.basis === "sum"
      ? [{ where: "", mostW: canW() }]
      : phasesOfSupply(supply).map((phase) => ({ where: ` on ${phase}`, mostW: canW(phase) }));
  const fed = places.filter(({ mostW }) => mostW > 0);
  const least = Math.min(...fed.map(({ mostW }) => mostW));
  if (fed.length > 0 && limitW >= REACHABLE_SHARE * least) {
    const low = fed.find(({ mostW }) => mostW === least)!;
    return [
      `The inverters make at most ${threeDigits(least)} W${low.where}, so ${threeDigits(limitW)} W are never ` +
        "reached. " +
        `For the test set the limit to ${Math.round((TEST_SHARE * least) / 100) * 100} W, here as the set-point too; ` +
        "put both back after it",
    ];
  }
  const of = fed.map(({ where, mostW }) => `more than ${threeDigits(limitW)} W of ${threeDigits(mostW)} W${where}`);
  return [`In sun: the inverters must be able to make more than the limit and the house together, so ${joined(of)}`];
}

/**
 * A recording judged by the same rule and code as the simulation, thinned to be kept. One whose export never came near
 * the set-point says nothing about the limiter: it is untested, however calm it looks. A limit on each phase is judged
 * on each; a phase that was not recorded is untested.
 *
 * For example: A steady 4850 W under a limit of 12 000 W: untested; under 5000 W: holds.
 *
 * @param ofPhases The phases of the supply.
 */
export function judgedProof(
  recording: Recording,
  limit: LimitSettings,
  about: Pick<LimitProof, "id" | "at" | "person" | "label">,
  ofPhases: readonly Phase[],
): LimitProof {
  const every = Math.max(1, Math.ceil(recording.tS.length / MOST_POINTS));
  const thin = (values: readonly number[]) => values.filter((_, at) => at % every === 0);
  const common = {
    ...about,
    limitW: limit.powerW ?? 0,
    secondsAllowed: limit.secondsAllowed,
    basis: limit.basis,
    tS: thin(recording.tS),
    exportW: thin(recording.exportW),
  };
  const whole = judged(recording.tS, recording.exportW, limit);
  const { phaseW } = recording;
  if (limit.basis === "sum" || !phaseW) return { ...common, ...whole };
  const eachPhase = ofPhases.flatMap((phase): readonly PhaseProof[] => {
    const exportW = phaseW[phase];
    return exportW ? [{ phase, exportW: thin(exportW), ...judged(recording.tS, exportW, limit) }] : [];
  });
  const verdict = verdictOfPhases(eachPhase, ofPhases);
  return { ...common, ...whole, verdict, eachPhase, ofPhases: [...ofPhases] };
}

function judged(
  tS: readonly number[],
  exportW: readonly number[],
  { powerW = 0, secondsAllowed, deadBandW, setPointW = Infinity }: Held,
): Pick<LimitProof, "verdict" | "maxExportW" | "longestOverS" | "settledExportW"> {
  const { verdict, maxExportW, longestOverS, settledExportW } = judgeExport(
    { tS, exportW },
    { powerW, secondsAllowed },
    deadBandW,
  );
  const setW = Math.min(powerW, setPointW);
  const isTested = maxExportW >= setW - Math.max(REACH_SHARE * setW, REACH_LEAST_W, deadBandW);
  return {
    verdict: verdict === "holds" && !isTested ? "untested" : verdict,
    maxExportW,
    longestOverS,
    settledExportW,
  };
}

/** Whatever went wrong on any phase; untested while one is missing. */
function verdictOfPhases(each: readonly PhaseProof[], ofPhases: readonly Phase[]): LimitProof["verdict"] {
  const bad = each.find(({ verdict }) => verdict !== "holds" && verdict !== "untested");
  if (bad) return bad.verdict;
  return unprovenPhases({ eachPhase: [...each], ofPhases: [...ofPhases] }).length === 0 ? "holds" : "untested";
}

/** The phases on which a limit on each still has to be proved. */
export function unprovenPhases({
  eachPhase = [],
  ofPhases = [],
}: Pick<LimitProof, "eachPhase" | "ofPhases">): readonly Phase[] {
  return ofPhases.filter((phase) => !eachPhase.some((own) => own.phase === phase && own.verdict === "holds"));
}

/**
 * The newest proof of the limit as it is now; one of another limit, basis or time proves nothing about it, nor one that
 * was recorded on a bench. Of a limit
 * on each phase, what several recordings showed is put together, the newest of each phase.
 */
export function standingProof({ powerW, basis, secondsAllowed, proofs }: LimitSettings): LimitProof | undefined {
  const own = proofs.filter(
    (proof) =>
      !proof.onBench && proof.limitW === powerW && proof.basis === basis && proof.secondsAllowed === secondsAllowed,
  );
  const last = own.at(-1);
  if (!last?.eachPhase || !last.ofPhases) return last;
  const { ofPhases } = last;
  const eachPhase = ofPhases.flatMap(
    (phase) => own.flatMap((proof) => proof.eachPhase?.filter((part) => part.phase === phase) ?? []).at(-1) ?? [],
  );
  return { ...last, eachPhase, verdict: verdictOfPhases(eachPhase, ofPhases) };
}

/** A recording, or every row that could not be read. */
export type RecordingOutcome =
  | { readonly kind: "recording"; readonly recording: Recording }
  | { readonly kind: "bad"; readonly problems: readonly string[] };

/** Which columns of a file are read. */
export type RecordingColumns = NonNullable<LimitSettings["columns"]>;

/**
 * Rows of an imported file as a recording: times as seconds, or as clock times or dates; powers with point or comma,
 * in the unit that was chosen, that their column names, or that stands in each cell; of a limit on each phase a column
 * for each. Rows that make no sense are told by their number, all at once; a unit that nothing says is asked.
 *
 * For example: Rows with "12:00:00" and "12:00:01": tS [0, 1].
 *
 * @param rows As parsed, by column name.
 */
export function recordingOfRows(
  rows: readonly Readonly<Record<string, string>>[],
  columns: RecordingColumns,
): RecordingOutcome {
  const byPhase = phaseSchema.options.flatMap((phase) => {
    const name = columns.phases?.[phase];
    return name ? [{ phase, name }] : [];
  });
  const names = byPhase.length > 0 ? byPhase.map(({ name }) => name) : [columns.power];
  const column = (name: string) => rows.map((row) => row[name] ?? "");
  const timeSign = decimalSignOf(column(columns.time).filter((text) => !text.includes(":")));
  const signs = names.map((name) => decimalSignOf(column(name)));
  if (timeSign === undefined || signs.includes(undefined)) return { kind: "bad", problems: [TWO_WAYS] };
  const units = names.map((name) => columns.unit ?? powerUnit(name));
  const problems = names.filter((name, at) => units[at] === undefined && column(name).some(isBare)).map(askUnit);
  const points = rows
    .flatMap((row, at) => {
      const t = secondsOf(row[columns.time] ?? "", timeSign);
      if (t === undefined) problems.push(`Row ${at + 2}: “${row[columns.time] ?? ""}” is no time`);
      const watts = names.map((name, which) => wattsOf(row[name] ?? "", signs[which]!, units[which]));
      const bad = watts.indexOf(undefined);
      if (t !== undefined && bad >= 0) problems.push(`Row ${at + 2}: “${row[names[bad]!] ?? ""}” is no power`);
      return t === undefined || bad >= 0
        ? []
        : [{ t, exportW: watts.map((own) => (columns.isExportPositive ? own! : -own!)) }];
    })
    .toSorted((a, b) => a.t - b.t);
  if (problems.length > 0) return { kind: "bad", problems };
  if (points.length < 3) return { kind: "bad", problems: ["A recording has at least three rows"] };
  const first = points[0]!.t;
  const phaseW = Object.fromEntries(
    byPhase.map(({ phase }, which) => [phase, points.map(({ exportW }) => exportW[which]!)]),
  );
  return {
    kind: "recording",
    recording: {
      tS: points.map(({ t }) => t - first),
      exportW: points.map(({ exportW }) => Math.max(...exportW)),
      ...(byPhase.length > 0 ? { phaseW } : {}),
    },
  };
}

function secondsOf(text: string, decimal: DecimalSign): number | undefined {
  const read = readNumber(withPoint(text, decimal), "point");
  if (read.kind === "number") return read.value;
  const clock = CLOCK.exec(text.trim().replace(",", "."));
  return clock ? Number(clock[1]) * 3600 + Number(clock[2]) * 60 + Number(clock[3] ?? 0) : undefined;
}

/** Kilowatt-hours are no power: a column of those is asked for. */
function powerUnit(name: string): "W" | "kW" | undefined {
  const unit = headerUnit(name);
  return unit === "kWh" ? undefined : unit;
}

/** A number without its unit. */
function isBare(text: string): boolean {
  return /\d/.test(text) && !/[a-z]/i.test(text);
}

function wattsOf(text: string, decimal: DecimalSign, unit: "W" | "kW" | undefined): number | undefined {
  const whole = isBare(text) && unit !== undefined ? `${text} ${unit}` : text;
  const read = typedPower(withPoint(whole, decimal), "point");
  return read.kind === "power" ? read.powerW : undefined;
}
