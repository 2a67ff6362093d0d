/** All combinations of faults, and the distinct hypotheses that they come to. */
export interface HypothesisSet {
  readonly inputCount: number;
  /** Number of distinct hypotheses; 0 is the planned fitting. */
  readonly count: number;
  /** For each hypothesis and input, an index into the responses; row-major. */
  readonly inputResponses: Int32Array;
  /** For each hypothesis, the sum of the priors of all combinations that come to it. */
  readonly weights: Float64Array;
  /** For each hypothesis, its likeliest combination. */
  readonly likeliest: Int32Array;
  /** For each response, which of `rows` it scales (row 0 is all zero), and by how much. */
  readonly responseRows: Int32Array;
  readonly responseAmplitudes: Float64Array;
  /** Distinct response rows, scaled so that the first part that counts is one. */
  readonly rows: readonly Float64Array[];
  readonly combinationCount: number;
  /** For each combination, its hypothesis. */
  readonly hypothesisOf: Int32Array;
  readonly priors: Float64Array;
  /** The faults of a combination, as indexes into the candidates. */
  faultsOf(combination: number): readonly number[];
}
