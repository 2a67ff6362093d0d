import type { Secondary } from "@/core/site/planSchema";

/** Resistivity of copper at 20 °C, Ω·mm²/m. */
export const COPPER_OHM_MM2_PER_M = 0.0172;
/** How much more a lead resists in a warm cupboard (about 70 °C). */
export const WARM_FACTOR = 1.2;
/** What the terminals resist: 0.1 VA at 5 A, Ω. */
const CONTACTS_OHM = 0.1 / 5 ** 2;

/** What a lead costs, VA, and how long it may be, m. */
export interface LeadBurden {
  readonly burdenVa: number;
  readonly longestLeadM: number | undefined;
}

/** A lead with its CT: m, mm², VA. */
export interface LeadOf {
  readonly secondary: Secondary;
  /** Of the pair, one way. */
  readonly leadM: number;
  readonly leadMm2: number;
  readonly meterVa: number;
  readonly ratedVa?: number | undefined;
  readonly isWarm?: boolean;
}

/** Whether a CT gives a current: its open secondary is dangerous, and its lead is a burden. */
export function isCurrentOutput(secondary: Secondary): boolean {
  return secondary.unit === "A" || secondary.unit === "mA";
}

/**
 * What a current-output CT has to drive at its rated current, VA, and the longest lead that its rating allows:
 * I² · (2 · ρ · L / A + contacts) + meter ≤ rated VA. Undefined for a voltage output, whose burden is built in.
 * The longest lead is 0 when the meter alone is too much, and undefined without a rated VA.
 *
 * @example leadBurden({ secondary: { value: 5, unit: "A" }, leadM: 10, leadMm2: 2.5, meterVa: 0.5, ratedVa: 5 })
 * // { burdenVa: 4.04, longestLeadM: 12.79 }
 */
export function leadBurden({
  secondary,
  leadM,
  leadMm2,
  meterVa,
  ratedVa,
  isWarm = false,
}: LeadOf): LeadBurden | undefined {
  if (!isCurrentOutput(secondary)) return undefined;
  const currentA = secondary.unit === "mA" ? secondary.value / 1000 : secondary.value;
  const vaPerMetre = (currentA ** 2 * 2 * COPPER_OHM_MM2_PER_M * (isWarm ? WARM_FACTOR : 1)) / leadMm2;
  const contactsVa = currentA ** 2 * CONTACTS_OHM;
  return {
    burdenVa: vaPerMetre * leadM + meterVa + contactsVa,
    longestLeadM: ratedVa === undefined ? undefined : Math.max(0, (ratedVa - meterVa - contactsVa) / vaPerMetre),
  };
}

/**
 * The smallest usual section whose lead of this length stays within the CT's rating when warm, mm².
 * Undefined when none does.
 *
 * @example smallestLeadMm2({ secondary: { value: 5, unit: "A" }, leadM: 10, meterVa: 0.5, ratedVa: 5 }) // 2.5
 */
export function smallestLeadMm2(
  lead: Omit<LeadOf, "leadMm2" | "isWarm"> & { readonly ratedVa: number },
): number | undefined {
  return [0.5, 0.75, 1, 1.5, 2.5, 4, 6, 10].find(
    (leadMm2) => (leadBurden({ ...lead, leadMm2, isWarm: true })?.burdenVa ?? 0) <= lead.ratedVa,
  );
}
