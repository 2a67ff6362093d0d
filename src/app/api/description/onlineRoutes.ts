import type { RouteDescription } from "@/app/api/description/routeDescription";
import { triedSchema, tryRequestSchema } from "@/core/chain/tried";
import { keptSecretSchema, wifiSecretSchema } from "@/core/online/passphrase/wifiSecret";

/** The routes of a job's way online. */
export const ONLINE_ROUTES: readonly RouteDescription[] = [
  {
    method: "post",
    path: "/jobs/{jobId}/online/try",
    operationId: "tryNetwork",
    summary: "Try a device's way to its service from the machine that runs the app: only what the plan names is asked.",
    body: { type: "application/json", schema: tryRequestSchema, example: { device: "hybrid", onBench: true } },
    answers: [{ status: 200, description: "What came of it", type: "application/json", schema: triedSchema }],
    errors: [400, 404, 413, 415],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/passphrase",
    operationId: "isPassphraseKept",
    summary: "Whether a network's passphrase is kept of a job, and since when; never what it is.",
    answers: [{ status: 200, description: "Since when", type: "application/json", schema: keptSecretSchema }],
    errors: [404],
  },
  {
    method: "put",
    path: "/jobs/{jobId}/passphrase",
    operationId: "keepPassphrase",
    summary: "Keep a network's name and passphrase until hand over, encrypted with a key outside the database.",
    body: {
      type: "application/json",
      schema: wifiSecretSchema,
      example: { name: "Harbour Lane", passphrase: "ferry timetable 7" },
    },
    answers: [{ status: 200, description: "Since when", type: "application/json", schema: keptSecretSchema }],
    errors: [400, 404, 413, 415],
  },
  {
    method: "post",
    path: "/jobs/{jobId}/passphrase/shown",
    operationId: "showPassphrase",
    summary: "What is kept, asked for on purpose; no answer of it is cached.",
    answers: [{ status: 200, description: "Name and passphrase", type: "application/json", schema: wifiSecretSchema }],
    errors: [404, 422],
  },
  {
    method: "delete",
    path: "/jobs/{jobId}/passphrase",
    operationId: "forgetPassphrase",
    summary: "Keep it no longer.",
    answers: [{ status: 204, description: "Done" }],
    errors: [404],
  },
];
