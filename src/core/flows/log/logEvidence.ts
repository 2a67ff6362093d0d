import { choleskyInPlace, solveLowerInPlace } from "@/core/flows/cholesky";
import type { HypothesisSet } from "@/core/flows/hypothesisSet";
import { medianStep } from "@/core/flows/log/alignLog";
import type { ReadingLog } from "@/core/flows/log/logSchema";
import { respond } from "@/core/flows/powerModel";
import type { SiteResponses } from "@/core/flows/responses";
import type { Background } from "@/core/flows/testSheetSchema";

/** Between rows farther apart than so many usual ones nothing is compared. */
const LONGEST_GAP = 3;
/** How loads change from row to row, as parts of their spread: all of them a little, more, or much. */
const TOGETHER = [0.01, 0.03, 0.1, 0.3, 2] as const;
/** One of them is switched, the others change this little. */
const SWITCHED = { one: 3, others: 0.1 } as const;
/** How likely it is that a row shows what nothing in the model makes, and how wide that is, W. */
const ODD = { share: 0.01, sdW: 5000 } as const;
/** Rounds in which the shares of the ways to change settle, and what each has to begin with, in rows. */
const ROUNDS = 8;
const BEGINNING = 0.5;
/** Reactive power that goes with a change of real power, as a part of it. */
const REACTIVE = 0.25;
/** Sizes of changes are told apart in steps of this factor: those of a step have one covariance. */
const SIZE_FACTOR = 2;
const LEAST_SIZE_W = 16;
const LOG_TWO_PI = Math.log(2 * Math.PI);

/** The change from one row to the next. */
export interface LogChange {
  /** Those of one kind have one covariance: the same inputs, and changes of about the same sizes. */
  readonly kind: number;
  readonly fromRow: number;
  readonly toRow: number;
  /** Which of the inputs were recorded in both, and by how much each changed, W. */
  readonly inputs: readonly number[];
  readonly changeW: readonly number[];
  /** By how much each known device changed, W. */
  readonly knownW: readonly number[];
}

/** What changes say of a hypothesis: ln evidence and the chance of being odd of each, and of all together. */
export interface WeighedChanges {
  readonly log: number;
  readonly logs: Float64Array;
  readonly odd: Float64Array;
}

/**
 * What the changes in a log say of a hypothesis. A known device's change is known within its tolerance; the loads'
 * changes are a mixture: all a little, more, or much, or one of them switched; how often each is, is found from the log
 * itself (expectation and maximisation); a small share of rows may show anything at all. A known device's power may be
 * off by a factor that is the same in every row.
 */
export class LogEvidence {
  private readonly knownDirections: readonly Float64Array[];
  private readonly loadDirections: readonly {
    readonly power: Float64Array;
    readonly sdW: number;
    readonly load: number;
  }[];
  private readonly loads: number;
  private readonly responses: Map<number, Float64Array> = new Map();

  constructor(
    private readonly set: HypothesisSet,
    private readonly log: ReadingLog,
    site: SiteResponses,
    background: readonly Background[],
  ) {
    const size = 2 * site.columns.length;
    this.knownDirections = log.known.map(({ node }) => {
      const power = new Float64Array(size);
      for (const { column, share } of site.shares(node)) {
        power[2 * column] = share.re;
        power[2 * column + 1] = share.im;
      }
      return power;
    });
    const known = new Set(log.known.map(({ node }) => node));
    let load = -1;
    this.loadDirections = background
      .filter(({ node }) => !known.has(node))
      .flatMap(({ node, sdW }) =>
        (site.columnsOf.get(node) ?? []).flatMap((column) => {
          load++;
          const [real, reactive] = [new Float64Array(size), new Float64Array(size)];
          real[2 * column] = 1;
          reactive[2 * column + 1] = REACTIVE;
          return [
            { power: real, sdW, load },
            { power: reactive, sdW, load },
          ];
        }),
      );
    this.loads = load + 1;
  }

  /**
   * @param scales Of each known device: the factor by which what is known of it is off.
   */
  ofChanges(
    hypothesis: number,
    slots: readonly number[],
    changes: readonly LogChange[],
    scales: readonly number[] = this.log.known.map(() => 1),
  ): WeighedChanges {
    const gains = slots.map((slot) => this.responseOf(hypothesis, slot));
    const factors: (readonly Factor[] | undefined)[] = [];
    const ways = TOGETHER.length + this.loads;
    const densities = new Float64Array(changes.length * (ways + 1));
    const miss = new Float64Array(slots.length);
    for (const [at, change] of changes.entries()) {
      const own = (factors[change.kind] ??= this.factorsFor(gains, change));
      for (let way = 0; way <= ways; way++) {
        this.missInto(miss, gains, change, scales);
        densities[at * (ways + 1) + way] = logDensity(own[way]!, miss, change.inputs.length);
      }
    }
    return settled(densities, changes.length, ways);
  }

  /** What each direction makes of an input: known devices first, then the loads. */
  private responseOf(hypothesis: number, slot: number): Float64Array {
    const response = this.set.inputResponses[hypothesis * this.set.inputCount + slot]!;
    const known = this.responses.get(response);
    if (known) return known;
    const row = this.set.rows[this.set.responseRows[response]!]!;
    const amplitude = this.set.responseAmplitudes[response]!;
    const powers = [...this.knownDirections, ...this.loadDirections.map(({ power }) => power)];
    const made = Float64Array.from(powers, (power) => amplitude * respond(row, power));
    this.responses.set(response, made);
    return made;
  }

  private factorsFor(gains: readonly Float64Array[], { inputs, changeW, knownW }: LogChange): readonly Factor[] {
    const { noise, known } = this.log;
    const sizeOf = (watts: number) => LEAST_SIZE_W * SIZE_FACTOR ** sizeIndex(watts);
    const largestW = sizeOf(Math.max(...changeW.map(Math.abs)));
    const noiseVar = 2 * noise.absoluteW ** 2 + (noise.relative * largestW) ** 2;
    const knownSd = known.map(({ tolerancePct, toleranceW }, at) =>
      Math.hypot((tolerancePct / 100) * sizeOf(knownW[at]!), Math.SQRT2 * toleranceW),
    );
    const ofLoads = (sdOf: (load: number) => number) => {
      const size = inputs.length;
      const covariance = new Float64Array(size * size);
      for (let a = 0; a < size; a++) {
        const own = gains[inputs[a]!]!;
        for (let b = 0; b <= a; b++) {
          const other = gains[inputs[b]!]!;
          let sum = a === b ? noiseVar : 0;
          for (let at = 0; at < knownSd.length; at++) sum += own[at]! * other[at]! * knownSd[at]! ** 2;
          for (const [at, { sdW, load }] of this.loadDirections.entries()) {
            const sd = sdW * sdOf(load);
            sum += own[knownSd.length + at]! * other[knownSd.length + at]! * sd * sd;
          }
          covariance[a * size + b] = sum;
        }
      }
      return covariance;
    };
    const anything = new Float64Array(inputs.length ** 2);
    for (let a = 0; a < inputs.length; a++) anything[a * inputs.length + a] = ODD.sdW ** 2;
    return [
      ...TOGETHER.map((part) =>
        factored(
          ofLoads(() => part),
          inputs.length,
        ),
      ),
      ...Array.from({ length: this.loads }, (_, own) =>
        factored(
          ofLoads((load) => (load === own ? SWITCHED.one : SWITCHED.others)),
          inputs.length,
        ),
      ),
      factored(anything, inputs.length),
    ];
  }

  private missInto(
    miss: Float64Array,
    gains: readonly Float64Array[],
    { inputs, changeW, knownW }: LogChange,
    scales: readonly number[],
  ): void {
    for (let at = 0; at < inputs.length; at++) {
      const own = gains[inputs[at]!]!;
      let left = changeW[at]!;
      for (let known = 0; known < knownW.length; known++) left -= own[known]! * knownW[known]! * scales[known]!;
      miss[at] = left;
    }
  }
}

/** A normal density of the mixture. */
interface Factor {
  readonly lower: Float64Array;
  readonly logDet: number;
}

function factored(covariance: Float64Array, size: number): Factor {
  const logDet = choleskyInPlace(covariance, size);
  return { lower: covariance, logDet };
}

/** ln of a normal density at a miss, which is used up. */
function logDensity({ lower, logDet }: Factor, miss: Float64Array, size: number): number {
  solveLowerInPlace(lower, size, miss, 1);
  let square = 0;
  for (let at = 0; at < size; at++) square += miss[at]! * miss[at]!;
  return -0.5 * (square + logDet + size * LOG_TWO_PI);
}

/** The shares of the ways to change, found from how well each fits, and the evidence with them. */
function settled(densities: Float64Array, count: number, ways: number): WeighedChanges {
  const row = ways + 1;
  const most = new Float64Array(count).fill(-Infinity);
  for (let at = 0; at < count * row; at++)
    most[Math.floor(at / row)] = Math.max(most[Math.floor(at / row)]!, densities[at]!);
  for (let at = 0; at < count * row; at++) densities[at] = Math.exp(densities[at]! - most[Math.floor(at / row)]!);
  const shares = new Float64Array(row).fill((1 - ODD.share) / ways);
  shares[ways] = ODD.share;
  const sums = new Float64Array(count);
  const found = new Float64Array(ways);
  for (let round = 0; round <= ROUNDS; round++) {
    found.fill(BEGINNING);
    for (let at = 0; at < count; at++) {
      let sum = 0;
      for (let way = 0; way < row; way++) sum += shares[way]! * densities[at * row + way]!;
      sums[at] = sum;
      for (let way = 0; way < ways; way++) found[way]! += (shares[way]! * densities[at * row + way]!) / sum;
    }
    const total = found.reduce((sum, own) => sum + own, 0);
    if (round < ROUNDS) for (let way = 0; way < ways; way++) shares[way] = ((1 - ODD.share) * found[way]!) / total;
  }
  const logs = Float64Array.from(sums, (sum, at) => most[at]! + Math.log(sum));
  const odd = Float64Array.from(sums, (sum, at) => (shares[ways]! * densities[at * row + ways]!) / sum);
  return { log: logs.reduce((sum, log) => sum + log, 0), logs, odd };
}

/** Sizes in steps of a factor, from the least one on. */
function sizeIndex(watts: number): number {
  const size = Math.abs(watts) / LEAST_SIZE_W;
  return size <= 1 ? 0 : Math.ceil(Math.log(size) / Math.log(SIZE_FACTOR));
}

/** Every change between neighbouring rows in which at least one input and every known device were recorded. */
export function changesOf({
  times,
  readings,
  known,
}: Pick<ReadingLog, "times" | "readings" | "known">): readonly LogChange[] {
  const longestS = LONGEST_GAP * medianStep(times);
  const kinds = new Map<string, number>();
  const kindOf = (inputs: readonly number[], changeW: readonly number[], knownW: readonly number[]) => {
    const key = `${inputs.join()} ${knownW.map(sizeIndex).join()} ${sizeIndex(Math.max(...changeW.map(Math.abs)))}`;
    const kind = kinds.get(key) ?? kinds.size;
    kinds.set(key, kind);
    return kind;
  };
  return times.slice(1).flatMap((time, before): readonly LogChange[] => {
    const row = before + 1;
    if (time - times[before]! > longestS) return [];
    const knownW = known.flatMap(({ powerW }) => difference(powerW, before) ?? []);
    if (knownW.length < known.length) return [];
    const changed = readings.flatMap(({ powerW }, input) => {
      const changeW = difference(powerW, before);
      return changeW === undefined ? [] : [{ input, changeW }];
    });
    if (changed.length === 0) return [];
    const inputs = changed.map(({ input }) => input);
    const changeW = changed.map((own) => own.changeW);
    return [{ kind: kindOf(inputs, changeW, knownW), fromRow: before, toRow: row, inputs, changeW, knownW }];
  });
}

function difference(values: readonly (number | null)[], row: number): number | undefined {
  const [a, b] = [values[row] ?? null, values[row + 1] ?? null];
  return a === null || b === null ? undefined : b - a;
}
