import type { z } from "zod";
import { diversionInSlices } from "@/core/simulation/diversion";
import { diversionRequestSchema } from "@/core/simulation/diversionSchema";
import { exportLimitCostMs, exportLimitInSlices } from "@/core/simulation/exportLimit";
import { exportLimitRequestSchema } from "@/core/simulation/exportLimitSchema";
import { plainFinding, type Finding } from "@/core/findings";
import { balance, balanceRequestSchema } from "@/core/flows/balance";
import { combinationCount } from "@/core/flows/hypotheses";
import { diagnoseLogInSlices } from "@/core/flows/log/diagnoseLog";
import { diagnoseLogRequestSchema } from "@/core/flows/log/logSchema";
import { proofPlanInSlices, proofPlanRequestSchema } from "@/core/flows/proof/proofPlan";
import { testProblem } from "@/core/flows/testProblem";
import { diagnoseInSlices, diagnoseRequestSchema } from "@/core/flows/diagnose";
import { predict, predictRequestSchema } from "@/core/flows/predict";
import { can, canRequestSchema } from "@/core/links/bus/can";
import { ethernet, ethernetRequestSchema } from "@/core/links/network/ethernet";
import { radio, radioRequestSchema } from "@/core/links/air/radio";
import { rs485 } from "@/core/links/bus/rs485";
import { rs485RequestSchema } from "@/core/links/bus/rs485Schema";
import { findBreak } from "@/core/online/findBreak";
import { onlineRequestSchema } from "@/core/online/onlineSchema";
import { plainText } from "@/core/sentence";
import { problemsOf, type Problem } from "@/core/problem";
import { scheduleInSlices } from "@/core/visit/schedule/schedule";
import { scheduleRequestSchema } from "@/core/visit/schedule/scheduleSchema";
import { computeVisit, visitRequestSchema } from "@/core/visit/computeVisit";
import { computeCt, ctRequestSchema } from "@/core/sensing/computeCt";

/** What an answer may cost, ms on one usual core: longer, and nobody waits on a ladder for it. */
const COST_BUDGET_MS = 15_000;
/** A simulated device and minute, or a schedule's step, on one usual core. */
const DIVERSION_STEPS_A_MS = 3_000;
/** Values of a log weighed, on one usual core; its first rows are weighed for every combination of faults. */
const LOG_LEAST_MS = 50;
const LOG_VALUES_A_MS = 20;
const LOG_FIRST_ROWS = 2;
/** A plan of a proof grows with the square of the inputs, ms. */
const PLAN_MS_AN_INPUT = 20;
const SCHEDULE_LEAST_MS = 300;
const SCHEDULE_MS_A_STEP = 8;

/** What a compute route answers, before it is a response. */
export type ComputeAnswer =
  | { readonly kind: "ok"; readonly json: string; readonly costMs: number }
  | {
      readonly kind: "problem";
      readonly code: "bad-json" | "invalid" | "cannot-compute";
      readonly message: string;
      readonly problems: readonly Problem[];
      readonly more?: object;
    };

type Outcome =
  | { readonly value: object }
  | { readonly cannot: string; readonly problems: readonly Problem[]; readonly more?: object };

interface ComputeTask {
  readonly schema: z.ZodType;
  readonly costMs: (request: never) => number;
  readonly work: (request: never) => Generator<unknown, Outcome>;
}

/** The compute routes: schema, about what an answer costs, and the work. */
const COMPUTE_TASKS = {
  predict: task(
    predictRequestSchema,
    small,
    atOnce(({ site, as, state }) => {
      const { findings, ...prediction } = predict(site, as, state);
      if (findings.length === 0) return { value: prediction };
      const problems = findings.map(({ subject, detail }) => ({
        path:
          subject.kind === "ct"
            ? ["site", "cts", site.cts.findIndex(({ id }) => id === subject.id), "secondary", "unit"]
            : [],
        message: plainText(detail),
      }));
      return {
        cannot: "A CT gives another kind of signal than its input takes.",
        problems,
        more: { findings: findings.map(plainFinding) },
      };
    }),
  ),
  diagnose: task(diagnoseRequestSchema, small, function* ({ site, ...sheet }) {
    const outcome = yield* diagnoseInSlices(site, sheet, COST_BUDGET_MS);
    if (outcome.kind === "diagnosed") return { value: outcome.diagnosis };
    if (outcome.kind === "too-costly") return tooCostly(outcome.costMs, ["maxFaults"]);
    return {
      cannot: `${outcome.combinations} combinations of faults are more than the ${outcome.limit} that are looked at.`,
      problems: [{ path: ["maxFaults"], message: "lower maxFaults, or diagnose one meter at a time" }],
    };
  }),
  "diagnose-log": task(
    diagnoseLogRequestSchema,
    ({ times, readings, known }) =>
      LOG_LEAST_MS + (times.length * readings.length * (1 + known.length)) / LOG_VALUES_A_MS,
    function* ({ site, ...log }) {
      const { candidates } = testProblem(site, { steps: [], noise: log.noise, maxFaults: log.maxFaults });
      const combinations = combinationCount(candidates.length, log.maxFaults);
      const costMs = (combinations * LOG_FIRST_ROWS * log.readings.length) / LOG_VALUES_A_MS;
      if (costMs > COST_BUDGET_MS) return tooCostly(costMs, ["maxFaults"]);
      return { value: yield* diagnoseLogInSlices(site, log) };
    },
  ),
  "proof-plan": task(
    proofPlanRequestSchema,
    ({ site }) => PLAN_MS_AN_INPUT * site.meters.reduce((sum, { inputs }) => sum + inputs.length, 0) ** 2,
    function* ({ site, ...assumed }) {
      return { value: yield* proofPlanInSlices(site, assumed) };
    },
  ),
  balance: task(
    balanceRequestSchema,
    small,
    atOnce(({ values }) => ({ value: balance(values) })),
  ),
  ct: task(
    ctRequestSchema,
    small,
    atOnce((request) => ({ value: computeCt(request) })),
  ),
  rs485: task(
    rs485RequestSchema,
    small,
    atOnce((request) => ({ value: rs485(request) })),
  ),
  can: task(
    canRequestSchema,
    small,
    atOnce((request) => ({ value: can(request) })),
  ),
  radio: task(
    radioRequestSchema,
    small,
    atOnce((request) => ({ value: radio(request) })),
  ),
  ethernet: task(
    ethernetRequestSchema,
    small,
    atOnce((request) => ({ value: ethernet(request) })),
  ),
  "export-limit": task(exportLimitRequestSchema, exportLimitCostMs, function* (request) {
    return { value: yield* exportLimitInSlices(request) };
  }),
  diversion: task(
    diversionRequestSchema,
    ({ days, stepMin, orders }) => (orders.length * days * 1440) / stepMin / DIVERSION_STEPS_A_MS,
    function* (request) {
      return { value: yield* diversionInSlices(request) };
    },
  ),
  schedule: task(
    scheduleRequestSchema,
    ({ steps }) => SCHEDULE_LEAST_MS + SCHEDULE_MS_A_STEP * steps.length,
    function* (request) {
      const outcome = yield* scheduleInSlices(request);
      if (outcome.kind === "schedule") return { value: outcome.schedule };
      return {
        cannot: `The needs lead in a circle: ${outcome.steps.join(", ")}.`,
        problems: [{ path: ["steps"], message: `${outcome.steps.join(" needs ")} needs ${outcome.steps[0]}` }],
      };
    },
  ),
  online: task(
    onlineRequestSchema,
    small,
    atOnce((request) => ({ value: findBreak(request) })),
  ),
  visit: task(
    visitRequestSchema,
    small,
    atOnce((request) => ({ value: computeVisit(request) })),
  ),
} as const satisfies Readonly<Record<string, ComputeTask>>;

export type ComputeName = keyof typeof COMPUTE_TASKS;

/**
 * A compute route's body as its answer: read, checked, weighed and computed, all of it off the server's main thread.
 */
export function* computeAnswer(name: ComputeName, body: Uint8Array): Generator<unknown, ComputeAnswer> {
  const { schema, costMs, work } = COMPUTE_TASKS[name] as ComputeTask;
  let raw: unknown;
  try {
    raw = JSON.parse(new TextDecoder().decode(body));
  } catch (error) {
    const detail = error instanceof Error ? error.message : "unreadable";
    return {
      kind: "problem",
      code: "bad-json",
      message: `The body is not JSON: ${detail}`,
      problems: [{ path: [], message: detail }],
    };
  }
  yield;
  const parsed = schema.safeParse(raw);
  if (!parsed.success) return { kind: "problem", code: "invalid", ...problemsOf(parsed.error) };
  // Each task's schema, cost and work are of one request type; the table forgets which.
  const request = parsed.data as never;
  const cost = costMs(request);
  const outcome = cost > COST_BUDGET_MS ? tooCostly(cost, []) : yield* work(request);
  if ("value" in outcome) return { kind: "ok", json: JSON.stringify(writtenOut(outcome.value)), costMs: cost };
  return {
    kind: "problem",
    code: "cannot-compute",
    message: outcome.cannot,
    problems: outcome.problems,
    ...(outcome.more ? { more: outcome.more } : {}),
  };
}

/** An answer as it leaves: its findings in English, with decimal points. */
function writtenOut(value: object): object {
  if (!("findings" in value)) return value;
  const { findings } = value as { readonly findings: readonly Finding[] };
  return { ...value, findings: findings.map(plainFinding) };
}

function tooCostly(costMs: number, path: Problem["path"]): Outcome {
  return {
    cannot:
      `This would take about ${Math.round(costMs / 1000)} s of computing; at most ${COST_BUDGET_MS / 1000} ` +
      "s are spent on one answer.",
    problems: [{ path, message: "ask for less: fewer faults, steps, devices or a shorter time" }],
    more: { cost: { estimatedMs: Math.round(costMs), budgetMs: COST_BUDGET_MS } },
  };
}

function task<S extends z.ZodType>(
  schema: S,
  costMs: (request: z.output<S>) => number,
  work: (request: z.output<S>) => Generator<unknown, Outcome>,
) {
  return { schema, costMs, work };
}

function small(): number {
  return 1;
}

function atOnce<Q>(answer: (request: Q) => Outcome): (request: Q) => Generator<unknown, Outcome> {
  return function* (request) {
    return answer(request);
  };
}
