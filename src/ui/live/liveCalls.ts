import { z } from "zod";
import {
  adaptersSchema,
  listenedSchema,
  liveValueSchema,
  type listenSchema,
  liveLinkSchema,
  liveSamplesSchema,
  settingsReadSchema,
  type LiveSample,
  type LiveValue,
  type LiveWay,
} from "@/core/live/liveSchema";
import type { SettingCure } from "@/core/live/readBack";
import { callApi, UNREACHABLE, type ApiProblem } from "@/ui/parts/server/apiClient";

/** What a call came to. */
export type Called<T> =
  { readonly kind: "ok"; readonly value: T } | { readonly kind: "failed"; readonly problem: ApiProblem };

const base = (jobId: string) => `/api/v1/jobs/${jobId}/live`;

/** Read a link so from now on; what is wrong otherwise. */
export async function connectLink(jobId: string, link: string, way: LiveWay): Promise<ApiProblem | undefined> {
  const called = await call("POST", base(jobId), liveLinkSchema, { link, way });
  return called.kind === "failed" ? called.problem : undefined;
}

export async function disconnectLink(jobId: string, link: string): Promise<void> {
  await call("DELETE", `${base(jobId)}/${encodeURIComponent(link)}`, z.undefined());
}

export async function searchLink(jobId: string, link: string): Promise<void> {
  await call("POST", `${base(jobId)}/${encodeURIComponent(link)}/search`, z.undefined(), {});
}

/** The powers of a link since a moment; none where it is not reached. */
export async function samplesOf(jobId: string, link: string, sinceMs: number): Promise<readonly LiveSample[]> {
  const path = `${base(jobId)}/${encodeURIComponent(link)}/samples?since=${Math.floor(sinceMs)}`;
  const called = await call("GET", path, liveSamplesSchema);
  return called.kind === "ok" ? called.value.samples : [];
}

export async function readSettings(jobId: string, link: string, device: string): Promise<Called<readonly LiveValue[]>> {
  const path = `${base(jobId)}/${encodeURIComponent(link)}/settings/${encodeURIComponent(device)}`;
  const called = await call("GET", path, settingsReadSchema);
  return called.kind === "ok" ? { kind: "ok", value: called.value.values } : called;
}

/** What is heard of a line for some seconds, as a line log has it. */
export async function listenToLine(
  jobId: string,
  link: string,
  asked: z.output<typeof listenSchema>,
): Promise<Called<string>> {
  const called = await call("POST", `${base(jobId)}/${encodeURIComponent(link)}/listen`, listenedSchema, asked);
  return called.kind === "ok" ? { kind: "ok", value: called.value.text } : called;
}

/** Write one setting that somebody armed; what is wrong where it was not taken. */
export async function writeSetting(
  jobId: string,
  link: string,
  device: string,
  { of, input, value }: SettingCure,
): Promise<ApiProblem | undefined> {
  const armed = input === undefined ? of : `${of}/${input}`;
  const body = { device, of, ...(input === undefined ? {} : { input }), value, armed };
  const called = await call("POST", `${base(jobId)}/${encodeURIComponent(link)}/settings`, liveValueSchema, body);
  return called.kind === "failed" ? called.problem : undefined;
}

export async function adaptersHere(): Promise<readonly { readonly path: string; readonly name: string }[]> {
  const called = await call("GET", "/api/v1/adapters", adaptersSchema);
  return called.kind === "ok" ? called.value.adapters : [];
}

async function call<S extends z.ZodType>(
  method: "GET" | "POST" | "DELETE",
  path: string,
  schema: S,
  body?: object,
): Promise<Called<z.output<S>>> {
  try {
    const answer = await callApi(method, path, schema, body && JSON.stringify(body));
    return answer.kind === "ok" ? answer : { kind: "failed", problem: answer.problem };
  } catch {
    return { kind: "failed", problem: UNREACHABLE };
  }
}
