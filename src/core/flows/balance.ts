import { z } from "zod";

/** Standard deviation of a house's load after one second, growing with √t: kettles and compressors. */
const DRIFT_W_PER_ROOT_S = 60;
/** Beyond two standard deviations lag is no explanation. */
const LAG_SDS = 2;
const MAX_VALUES = 12;

/** What a displayed value is of. Its sign is that of the load convention on the site's own side of the meter. */
export const balanceRoleSchema = z.enum(["grid", "solar", "battery", "house", "heater", "vehicle"]);

/** What one display shows, W as it is shown, and of what. */
export const shownValueSchema = z.object({
  role: balanceRoleSchema.describe("What it is for"),
  /** What the display shows, in watts; the meaning of its sign is in `positive`. */
  shownW: z.number().min(-1e9).max(1e9).describe("What is shown, W"),
  positive: z
    .enum(["source", "sink"])
    .describe(
      "Which way a positive number flows for the site: as a source (importing, generating, discharging) or as a sink",
    ),
  resolutionW: z
    .number()
    .positive()
    .max(1e6)
    .default(1)
    .describe("The smallest step that the display can show, watts: 10 for kilowatts with two decimals"),
  atS: z.number().min(0).max(86_400).default(0).describe("When it was read, seconds from any moment"),
});

/** The request of the balance check. */
export const balanceRequestSchema = z
  .object({
    values: z
      .array(shownValueSchema)
      .min(2, "a balance needs at least two values")
      .max(MAX_VALUES)
      .describe("The values that it takes"),
  })
  .superRefine(({ values }, context) => {
    values.forEach((value, at) => {
      if (values.findIndex((other) => other.role === value.role) < at) {
        context.addIssue({
          code: "custom",
          path: ["values", at, "role"],
          message: `${value.role} is given twice; add the values up`,
        });
      }
    });
  });

/** What a shown value is of. */
export type BalanceRole = z.output<typeof balanceRoleSchema>;
/** A value as a display shows it. */
export type ShownValue = z.output<typeof shownValueSchema>;

/** Whether the shown values add up, or what would make them. */
export type BalanceVerdict = "balances" | "within-rounding" | "lag-would-explain" | "does-not-balance";

/** What would close a gap best. */
export type BalanceCause =
  | { readonly kind: "sign-flip"; readonly role: BalanceRole; readonly leftW: number }
  | { readonly kind: "counted-twice"; readonly role: BalanceRole; readonly leftW: number }
  | { readonly kind: "missing-device"; readonly flow: "source" | "sink"; readonly powerW: number; readonly leftW: 0 };

/** The verdict on shown values, with the balance that they leave, W. */
export interface BalanceResult {
  readonly verdict: BalanceVerdict;
  /** Sources minus sinks, watts; zero when everything adds up. */
  readonly gapW: number;
  readonly roundingW: number;
  readonly lagW: number;
  readonly cause: BalanceCause | null;
  readonly text: string;
}

/**
 * Whether values displayed at about one moment add up: grid + solar + battery = house + heater + vehicle,
 * each with its sign.
 *
 * Each value carries half its resolution; values read t seconds apart carry the load's drift,
 * 2 · 60 W · √t. When neither covers the gap, the single sign flip, double count or missing device that
 * closes it best is named: a flip changes the gap by twice the value, a double count by once.
 *
 * For example: Importing 1.24 kW, generating 2.0 kW, house 0.76 kW: gap 2480 W, a sign flip of the grid leaves 0 W.
 */
export function balance(values: readonly ShownValue[]): BalanceResult {
  const signed = values.map((value) => ({
    role: value.role,
    powerW: value.positive === "source" ? value.shownW : -value.shownW,
  }));
  const gapW = signed.reduce((sum, value) => sum + value.powerW, 0);
  const roundingW = values.reduce((sum, value) => sum + value.resolutionW / 2, 0);
  const times = values.map((value) => value.atS);
  const lagW = LAG_SDS * DRIFT_W_PER_ROOT_S * Math.sqrt(Math.max(...times) - Math.min(...times));
  const verdict = verdictOf(Math.abs(gapW), {
    roundingW,
    lagW,
    scaleW: Math.max(...signed.map((value) => Math.abs(value.powerW))),
  });
  const cause = verdict === "does-not-balance" ? likeliestCause(signed, gapW, roundingW + lagW) : null;
  return { verdict, gapW, roundingW, lagW, cause, text: explain(verdict, gapW, cause) };
}

interface Signed {
  readonly role: BalanceRole;
  readonly powerW: number;
}

function verdictOf(gapW: number, limits: { roundingW: number; lagW: number; scaleW: number }): BalanceVerdict {
  if (gapW <= limits.scaleW * 1e-9) return "balances";
  if (gapW <= limits.roundingW) return "within-rounding";
  return gapW <= limits.roundingW + limits.lagW ? "lag-would-explain" : "does-not-balance";
}

function likeliestCause(signed: readonly Signed[], gapW: number, allowedW: number): BalanceCause {
  const flips = signed.map(({ role, powerW }): BalanceCause => ({ kind: "sign-flip", role, leftW: gapW - 2 * powerW }));
  const doubles = signed.map(({ role, powerW }): BalanceCause => ({
    kind: "counted-twice",
    role,
    leftW: gapW - powerW,
  }));
  const best = [...flips, ...doubles].sort((a, b) => Math.abs(a.leftW) - Math.abs(b.leftW))[0];
  // A missing device closes any gap, so it is named only when no flip or double count closes it.
  if (best && Math.abs(best.leftW) <= Math.max(allowedW, Math.abs(gapW) * 0.05)) return best;
  return { kind: "missing-device", flow: gapW > 0 ? "sink" : "source", powerW: Math.abs(gapW), leftW: 0 };
}

function explain(verdict: BalanceVerdict, gapW: number, cause: BalanceCause | null): string {
  const gap = `${Math.round(Math.abs(gapW))} W`;
  switch (verdict) {
    case "balances":
      return "Balances: sources and loads add up.";
    case "within-rounding":
      return `Within rounding: ${gap} is less than the last digits of the displays hide.`;
    case "lag-would-explain":
      return (
        `Lag would explain it: ${gap} is what a house changes by in the time between the readings. Read ` +
        "again closer together."
      );
    case "does-not-balance":
      return (
        "Does not balance: " +
        `${gapW > 0 ? `${gap} more comes in than goes out` : `${gap} more goes out than comes in`}. ` +
        `${causeText(cause)}`
      );
  }
}

function causeText(cause: BalanceCause | null): string {
  switch (cause?.kind) {
    case undefined:
      return "";
    case "sign-flip":
      return `It looks like the ${cause.role} value has the wrong sign.`;
    case "counted-twice":
      return `It looks like the ${cause.role} value is counted twice.`;
    case "missing-device":
      return cause.flow === "sink"
        ? "It looks like a load that no display shows."
        : "It looks like a source that no display shows.";
  }
}
