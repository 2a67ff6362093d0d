import { z } from "zod";
import { diversionRequestSchema, diversionResponseSchema } from "@/core/control/diversionSchema";
import { exportLimitRequestSchema, exportLimitResponseSchema } from "@/core/control/exportLimitSchema";
import { balanceRequestSchema } from "@/core/flows/balance";
import {
  balanceResponseSchema,
  computeErrorSchema,
  diagnoseResponseSchema,
  predictResponseSchema,
} from "@/core/flows/computeResponses";
import { diagnoseRequestSchema } from "@/core/flows/diagnose";
import { predictRequestSchema } from "@/core/flows/predict";
import { canRequestSchema, canResponseSchema } from "@/core/links/can";
import { ethernetRequestSchema, ethernetResponseSchema } from "@/core/links/ethernet";
import { radioRequestSchema, radioResponseSchema } from "@/core/links/radio";
import { rs485RequestSchema, rs485ResponseSchema } from "@/core/links/rs485Schema";
import { scheduleRequestSchema, scheduleResponseSchema } from "@/core/procedure/schedule/scheduleSchema";
import { ctRequestSchema, ctResponseSchema } from "@/core/sensing/computeCt";

interface ComputeRoute {
  readonly name: string;
  readonly summary: string;
  readonly request: z.ZodType;
  readonly response: z.ZodType;
}

const COMPUTE_ROUTES: readonly ComputeRoute[] = [
  {
    name: "predict",
    summary: "What every meter input reads in a state of the site, as planned or as fitted.",
    request: predictRequestSchema,
    response: predictResponseSchema,
  },
  {
    name: "diagnose",
    summary: "Which faults in the fitting explain what was seen, and what to switch on next.",
    request: diagnoseRequestSchema,
    response: diagnoseResponseSchema,
  },
  {
    name: "balance",
    summary: "Whether displayed values of one moment add up, and what would close the gap.",
    request: balanceRequestSchema,
    response: balanceResponseSchema,
  },
  {
    name: "ct",
    summary: "Errors of a CT and meter at a current, burden and longest lead, and the ratio to type.",
    request: ctRequestSchema,
    response: ctResponseSchema,
  },
  {
    name: "rs485",
    summary:
      "An RS-485 line in numbers: reflections, load, idle and far-end level, poll cycle; and what is wrong with it.",
    request: rs485RequestSchema,
    response: rs485ResponseSchema,
  },
  {
    name: "can",
    summary: "A CAN bus in numbers: propagation margin, longest line, load of its frames.",
    request: canRequestSchema,
    response: canResponseSchema,
  },
  {
    name: "radio",
    summary: "A sub-GHz radio pair: path loss, level, sensitivity, margin, air time of a frame.",
    request: radioRequestSchema,
    response: radioResponseSchema,
  },
  {
    name: "export-limit",
    summary:
      "An export limit in the time domain: largest export, time above, fallback, delay budget, largest gain that does not hunt, safe set-point.",
    request: exportLimitRequestSchema,
    response: exportLimitResponseSchema,
  },
  {
    name: "diversion",
    summary: "Where the surplus goes over a day, a week or a year, surplus orders side by side.",
    request: diversionRequestSchema,
    response: diversionResponseSchema,
  },
  {
    name: "schedule",
    summary: "Who does what when: steps with needs, waits, windows and walking, with a bound that no schedule beats.",
    request: scheduleRequestSchema,
    response: scheduleResponseSchema,
  },
  {
    name: "ethernet",
    summary: "What a lead is, from the colours in both plugs.",
    request: ethernetRequestSchema,
    response: ethernetResponseSchema,
  },
];

/** The compute routes as an OpenAPI 3.1 document, generated from the schemas that they parse with. */
export function openApi(): object {
  const error = {
    description: "What is wrong, with the path of each problem",
    content: json(z.toJSONSchema(computeErrorSchema)),
  };
  const paths = COMPUTE_ROUTES.map(({ name, summary, request, response }) => [
    `/api/v1/compute/${name}`,
    {
      post: {
        operationId: name,
        summary,
        requestBody: { required: true, content: json(z.toJSONSchema(request, { io: "input" })) },
        responses: {
          200: { description: "The answer", content: json(z.toJSONSchema(response, { io: "input" })) },
          400: error,
          413: error,
          415: error,
          422: error,
          429: error,
          503: error,
        },
      },
    },
  ]);
  return {
    openapi: "3.1.0",
    info: {
      title: "Gormit compute routes",
      version: "1",
      description: "Stateless: the same functions as the interface uses. Powers in W, load convention.",
    },
    paths: Object.fromEntries(paths),
  };
}

function json(schema: object) {
  return { "application/json": { schema } };
}
