import { said, together, type Sentence } from "@/core/sentence";
import { z } from "zod";
import { findingSchema, type Finding, type WithFindings } from "@/core/findings";
import { ratioFormSchema } from "@/core/kits/ratioForm";
import { ctErrorAt, powerErrorPct } from "@/core/sensing/ctAccuracy";
import { isCurrentOutput, leadBurden } from "@/core/sensing/ctBurden";
import { listOf, ratioEntry, saidRatioForm } from "@/core/sensing/ratioEntry";
import { ctClassSchema, secondarySchema } from "@/core/site/planSchema";
import { threeDigits } from "@/core/units";

const ACCURACY_SOURCE = "IEC 61869-2, limits of the class";
const BURDEN_SOURCE = "I²·(2·ρ·L/A + 4 mΩ of contacts) + meter; copper 0.0172 Ω·mm²/m at 20 °C";

/** What the route `ct` takes: a CT, its load in A, its lead in m and mm². */
export const ctRequestSchema = z.object({
  class: ctClassSchema,
  meterClassPct: z.number().min(0).max(20),
  primaryA: z.number().positive().max(1e5),
  secondary: secondarySchema,
  currentA: z.number().min(0).max(1e6),
  powerFactor: z
    .number()
    .min(-1)
    .max(1)
    .refine((value) => Math.abs(value) >= 0.01, "a power factor is from 0.01 to 1, or as much below zero"),
  voltageV: z.number().positive().max(1e6),
  leadLengthM: z.number().min(0).max(1e4).optional(),
  leadAreaMm2: z.number().positive().max(1000).optional(),
  ratedVa: z.number().positive().max(1e4).optional(),
  meterVa: z.number().min(0).max(1e4).default(0),
  ratioForm: ratioFormSchema.optional(),
});

/** The answer of the route `ct`. */
export const ctResponseSchema = z.object({
  ratioErrorPct: z.number().nullable(),
  displacementMin: z.number().nullable(),
  powerErrorPct: z.number().nullable(),
  powerErrorW: z.number().nullable(),
  promised: z.boolean(),
  burdenVa: z.number().nullable(),
  longestLeadM: z.number().nullable(),
  /** The same with warm copper, which is what a lead in a cupboard is. */
  warmLongestLeadM: z.number().nullable(),
  ratioEntry: z.number().nullable(),
  findings: z.array(findingSchema),
});

/** A CT with what it is asked of it. */
export type CtRequest = z.output<typeof ctRequestSchema>;
/** Errors in % and W, burden in VA, the number to type. */
export type CtResponse = WithFindings<z.output<typeof ctResponseSchema>>;

/**
 * What a CT and meter make of a current: the largest errors that their classes allow, the burden of the lead, and the
 * number to type for the ratio. `null` where the class promises nothing, or where the question was not asked.
 *
 * For example: `computeCt({ class: "1", meterClassPct: 1, primaryA: 100, secondary: { value: 0.333, unit: "V" },
 * currentA: 20, powerFactor: 1, voltageV: 230, meterVa: 0 })` gives ratioErrorPct 1.5, displacementMin 90,
 * powerErrorPct 2.534, powerErrorW 116.6, promised
 */
export function computeCt(request: CtRequest): CtResponse {
  const currentPct = (100 * request.currentA) / request.primaryA;
  const error = ctErrorAt(request.class, currentPct);
  const isPromised = error.kind === "promised";
  const errorPct = powerErrorPct({
    ctClass: request.class,
    currentPct,
    meterClassPct: request.meterClassPct,
    powerFactor: request.powerFactor,
  });
  const powerW = request.voltageV * request.currentA * Math.abs(request.powerFactor);
  const burden = burdenOf(request, false);
  const entry = request.ratioForm && ratioEntry(request.ratioForm, request.primaryA, request.secondary);
  return {
    ratioErrorPct: isPromised ? error.ratioErrorPct : null,
    displacementMin: (isPromised ? error.displacementMin : undefined) ?? null,
    powerErrorPct: errorPct ?? null,
    powerErrorW: errorPct === undefined ? null : (errorPct / 100) * powerW,
    promised: isPromised,
    burdenVa: (request.leadLengthM === undefined ? undefined : burden?.burdenVa) ?? null,
    longestLeadM: burden?.longestLeadM ?? null,
    warmLongestLeadM: burdenOf(request, true)?.longestLeadM ?? null,
    ratioEntry: entry?.kind === "entry" ? entry.value : null,
    findings: [...accuracyFindings(request, currentPct), ...burdenFindings(request), ...entryFindings(request)],
  };
}

/** Needs the section; without a length only the longest lead can be told. */
function burdenOf({ secondary, leadLengthM, leadAreaMm2, ratedVa, meterVa }: CtRequest, isWarm: boolean) {
  if (leadAreaMm2 === undefined) return undefined;
  return leadBurden({ secondary, leadM: leadLengthM ?? 0, leadMm2: leadAreaMm2, meterVa, ratedVa, isWarm });
}

function accuracyFindings(request: CtRequest, currentPct: number): readonly Finding[] {
  const error = ctErrorAt(request.class, currentPct);
  if (error.kind === "nothing-promised") {
    const isBelow = currentPct < error.lowestPct;
    return [
      finding(
        isBelow ? "below-class" : "above-class",
        isBelow ? "note" : "fix",
        ACCURACY_SOURCE,
        isBelow ? "Below what the class promises" : "Above what the class promises",
        together(
          said`${threeDigits(request.currentA)} A is ${threeDigits(currentPct)} % of ${request.primaryA} A; `,
          together(
            said`class ${request.class} promises nothing `,
            said`${isBelow ? said`below ${error.lowestPct}` : said`above ${error.highestPct}`} %.`,
          ),
        ),
        isBelow ? "Choose a smaller primary, more turns, or a class with S" : "Choose a larger primary",
      ),
    ];
  }
  if (error.displacementMin !== undefined) return [];
  return [
    finding(
      "no-displacement-limit",
      "note",
      ACCURACY_SOURCE,
      "No limit of the displacement",
      together(
        said`Class ${request.class} limits no phase displacement; the power error of `,
        together(
          said`${threeDigits(error.ratioErrorPct + request.meterClassPct)} % counts none, so it holds at `,
          "power factor 1 only.",
        ),
      ),
      "Choose class 1 or better where power is measured, not only current",
    ),
  ];
}

function burdenFindings(request: CtRequest): readonly Finding[] {
  const warm = burdenOf(request, true);
  if (!warm || request.ratedVa === undefined || request.leadLengthM === undefined || warm.burdenVa <= request.ratedVa)
    return [];
  const cold = burdenOf(request, false)!;
  const isOnlyWarm = cold.burdenVa <= request.ratedVa;
  return [
    finding(
      "burden",
      isOnlyWarm ? "note" : "fix",
      BURDEN_SOURCE,
      "The lead is too long for the CT",
      together(
        said`${threeDigits(cold.burdenVa)} VA at 20 °C, ${threeDigits(warm.burdenVa)} VA warm, against `,
        said`${request.ratedVa} VA rated.`,
      ),
      said`Keep the lead to ${threeDigits(Math.floor((warm.longestLeadM ?? 0) * 10) / 10)} m, or take a larger section`,
    ),
  ];
}

function entryFindings(request: CtRequest): readonly Finding[] {
  if (!request.ratioForm) return [];
  const entry = ratioEntry(request.ratioForm, request.primaryA, request.secondary);
  if (entry.kind === "entry") return [];
  const others = entry.primariesA.slice(0, 4);
  return [
    finding(
      "ratio-entry",
      "fix",
      "Form, range and step of the kit's ratio setting",
      "This ratio cannot be typed",
      together(
        said`${request.primaryA} A : ${request.secondary.value} ${request.secondary.unit}: ${entry.why}; the `,
        said`kit takes ${saidRatioForm(request.ratioForm)}.`,
      ),
      others.length > 0
        ? said`Fit a CT of ${listOf(others)} A`
        : said`Fit a CT of another secondary than ${isCurrentOutput(request.secondary) ? "a current" : "a voltage"}`,
    ),
  ];
}

function finding(
  code: string,
  severity: Finding["severity"],
  source: string,
  title: string,
  detail: Sentence,
  cure: Sentence,
): Finding {
  return { id: code, code, severity, stage: "plan", subject: { kind: "job" }, title, detail, cure, source };
}
