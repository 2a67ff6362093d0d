import { z } from "zod";
import { idSchema } from "@/core/names";

const deviceSchema = z.object({ device: idSchema });
const inputSchema = z.object({ meter: idSchema, input: z.coerce.number().int().min(1).max(99) });
const stepSchema = z.object({ step: z.string().min(1).max(300) });

/** What a link to a stage leads to: a device, an input or a step. Anything else in it is ignored. */
export function startOf(
  params: URLSearchParams,
):
  | { readonly kind: "node"; readonly id: string }
  | { readonly kind: "input"; readonly meter: string; readonly input: number }
  | { readonly kind: "step"; readonly step: string }
  | undefined {
  const asked = Object.fromEntries(params);
  const device = deviceSchema.safeParse(asked);
  if (device.success) return { kind: "node", id: device.data.device };
  const input = inputSchema.safeParse(asked);
  if (input.success) return { kind: "input", ...input.data };
  const step = stepSchema.safeParse(asked);
  return step.success ? { kind: "step", ...step.data } : undefined;
}
