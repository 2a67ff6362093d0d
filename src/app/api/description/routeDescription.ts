import type { z } from "zod";

/** What a client sends: a body of one type, with an example that the route takes. */
export interface BodyDescription {
  readonly type: "application/json" | "application/yaml" | "application/zip" | "image/*";
  /** A component by its name, or a schema of its own. */
  readonly schema?: string | z.ZodType;
  readonly example?: unknown;
}

/** What comes back when it goes well. */
export interface AnswerDescription {
  readonly status: 200 | 201 | 204 | 304;
  readonly description: string;
  readonly type?:
    | "application/json"
    | "application/yaml"
    | "text/csv"
    | "text/plain"
    | "text/calendar"
    | "application/pdf"
    | "application/zip"
    | "image/*";
  readonly schema?: string | z.ZodType;
}

/** One method of one path, as a client needs it. */
export interface RouteDescription {
  readonly method: "get" | "post" | "put" | "patch" | "delete";
  /** With its parameters in braces. */
  readonly path: string;
  readonly operationId: string;
  readonly summary: string;
  readonly query?: z.ZodObject;
  readonly headers?: Readonly<Record<string, string>>;
  readonly body?: BodyDescription;
  readonly answers: readonly AnswerDescription[];
  /** Statuses of error answers; those that any route can give (403, 500, 503) are added. */
  readonly errors: readonly (400 | 404 | 408 | 409 | 413 | 415 | 422 | 429 | 507)[];
}
