import { z } from "zod";
import type { RouteDescription } from "@/app/api/description/routeDescription";
import {
  adaptersSchema,
  liveConnectSchema,
  liveLinkSchema,
  liveSamplesSchema,
  liveSchema,
  settingsReadSchema,
} from "@/core/live/liveSchema";

/** The routes of what is read from devices. */
export const LIVE_ROUTES: readonly RouteDescription[] = [
  {
    method: "get",
    path: "/adapters",
    operationId: "listAdapters",
    summary: "The serial adapters of the machine that the app runs on.",
    answers: [{ status: 200, description: "Their paths", type: "application/json", schema: adaptersSchema }],
    errors: [],
  },
  {
    method: "post",
    path: "/jobs/{jobId}/live",
    operationId: "readLink",
    summary: "Read the devices of a link, in place of how it was read before. Nothing is ever written.",
    body: {
      type: "application/json",
      schema: liveConnectSchema,
      example: { link: "rs485-1", way: { kind: "modbus-tcp", host: "127.0.0.1", port: 47_099 } },
    },
    answers: [{ status: 201, description: "The link", type: "application/json", schema: liveLinkSchema }],
    errors: [400, 404, 413, 415],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/live",
    operationId: "getLive",
    summary: "What is read now; with `accept: text/event-stream`, as events `all`, `link` and `gone`.",
    answers: [{ status: 200, description: "The links", type: "application/json", schema: liveSchema }],
    errors: [404],
  },
  {
    method: "post",
    path: "/jobs/{jobId}/live/{linkId}/search",
    operationId: "searchLink",
    summary: "Begin to look which addresses answer, and at which speed; what is found comes with the link.",
    answers: [{ status: 204, description: "Begun" }],
    errors: [404],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/live/{linkId}/samples",
    operationId: "getSamples",
    summary: "Every power that was read of a link since a moment.",
    query: z.object({ since: z.number().optional().describe("ms since 1970") }),
    answers: [{ status: 200, description: "Oldest first", type: "application/json", schema: liveSamplesSchema }],
    errors: [400, 404],
  },
  {
    method: "get",
    path: "/jobs/{jobId}/live/{linkId}/settings/{deviceId}",
    operationId: "readSettings",
    summary: "How a device is set, read from it now.",
    answers: [{ status: 200, description: "Its values", type: "application/json", schema: settingsReadSchema }],
    errors: [404],
  },
  {
    method: "delete",
    path: "/jobs/{jobId}/live/{linkId}",
    operationId: "stopReading",
    summary: "Read a link no longer.",
    answers: [{ status: 204, description: "Done" }],
    errors: [404],
  },
];
