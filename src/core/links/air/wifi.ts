import { wallsLossDb, type Walls } from "@/core/plan/walls";

/** What a household router and a device send with, and their aerials, dBm and dBi. */
const TX_DBM = { 2.4: 18, 5: 20 } as const;
const GAINS_DBI = 2;
/** Free space at 1 m, dB: 20 · log10(f in MHz) − 27.55. */
const FIRST_METRE_DB = { 2.4: 40.2, 5: 46.8 } as const;
const EXPONENT = 2.2;
/** A device in the same room is not nearer than this. */
const NEAREST_M = 1;
const GOOD_DBM = -67;
const MARGINAL_DBM = -75;

/** What arrives at the spot, dBm, and whether that is good. */
export interface WifiBudget {
  readonly bandGhz: 2.4 | 5;
  readonly lossDb: number;
  readonly rxDbm: number;
  readonly judgement: "good" | "marginal" | "too weak";
}

/**
 * What of a router arrives at a spot: P_tx + G − (L_0 + 10 · n · log10(d) + walls), with n = 2.2 inside a house and
 * walls counted apart. From −67 dBm on it is good, down to −75 marginal. Usual values; the phone at the spot is better.
 *
 * @example wifiBudget(2.4, 10, { wood: 0, brick: 2, concrete: 0, metal: 0, floor: 0 }).rxDbm // −58.2
 */
export function wifiBudget(bandGhz: 2.4 | 5, distanceM: number, walls: Walls): WifiBudget {
  const lossDb =
    FIRST_METRE_DB[bandGhz] + 10 * EXPONENT * Math.log10(Math.max(NEAREST_M, distanceM)) + wallsLossDb(walls, bandGhz);
  const rxDbm = TX_DBM[bandGhz] + GAINS_DBI - lossDb;
  return { bandGhz, lossDb, rxDbm, judgement: judgedDbm(rxDbm) };
}

/** @example judgedDbm(-71) // "marginal" */
export function judgedDbm(rxDbm: number): WifiBudget["judgement"] {
  return rxDbm >= GOOD_DBM ? "good" : rxDbm >= MARGINAL_DBM ? "marginal" : "too weak";
}
