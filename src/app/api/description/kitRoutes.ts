import { z } from "zod";
import { savedKitSchema } from "@/core/answers/kitAnswers";
import type { RouteDescription } from "@/app/api/description/routeDescription";

/** The routes of the kit library, and of the app's health. */
export const KIT_ROUTES: readonly RouteDescription[] = [
  {
    method: "get",
    path: "/kits",
    operationId: "listKits",
    summary: "The kits that ship and one's own, and what of the latter cannot be read.",
    answers: [
      {
        status: 200,
        description: "The kits",
        type: "application/json",
        schema: z.object({
          kits: z.array(z.object({ kit: z.object({ id: z.string() }).loose(), origin: z.enum(["shipped", "own"]) })),
          broken: z.array(z.unknown()),
        }),
      },
    ],
    errors: [],
  },
  {
    method: "post",
    path: "/kits",
    operationId: "addKit",
    summary: "Bring in a kit file, or replace one's own as it stood at a revision.",
    query: z.object({ replace: z.string().max(64).optional(), revision: z.int().min(0).optional() }),
    body: { type: "application/yaml", schema: z.string() },
    answers: [
      {
        status: 201,
        description: "It is kept",
        type: "application/json",
        schema: savedKitSchema,
      },
    ],
    errors: [400, 409, 413, 415, 422, 429],
  },
  {
    method: "delete",
    path: "/kits/{kitId}",
    operationId: "deleteKit",
    summary: "Delete a kit of one's own; it can be brought back.",
    answers: [{ status: 204, description: "Done" }],
    errors: [404],
  },
  {
    method: "post",
    path: "/kits/{kitId}/restore",
    operationId: "restoreKit",
    summary: "Bring a deleted kit back.",
    answers: [{ status: 204, description: "Done" }],
    errors: [404],
  },
  {
    method: "get",
    path: "/kits/{kitId}/export",
    operationId: "exportKit",
    summary: "The file of a kit, word for word.",
    answers: [{ status: 200, description: "The file", type: "application/yaml" }],
    errors: [404],
  },
  {
    method: "get",
    path: "/health",
    operationId: "health",
    summary: "Whether the app and its database answer.",
    answers: [
      {
        status: 200,
        description: "Both answer",
        type: "application/json",
        schema: z.object({ ok: z.literal(true) }),
      },
    ],
    errors: [],
  },
  {
    method: "get",
    path: "/openapi.json",
    operationId: "openApi",
    summary: "This description.",
    answers: [
      {
        status: 200,
        description: "OpenAPI 3.1",
        type: "application/json",
        schema: z.object({ openapi: z.string(), paths: z.object({}).loose() }).loose(),
      },
    ],
    errors: [],
  },
];
