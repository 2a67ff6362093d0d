import { z } from "zod";
import { idSchema } from "@/core/names";

export type SearchParams = Readonly<Record<string, string | string[] | undefined>>;

const deviceSchema = z.object({ device: idSchema });
const inputSchema = z.object({ meter: idSchema, input: z.coerce.number().int().min(1).max(99) });

/** What a link to a stage leads to: a device or an input. Anything else in it is ignored. */
export function startOf(
  params: SearchParams,
):
  | { readonly kind: "node"; readonly id: string }
  | { readonly kind: "input"; readonly meter: string; readonly input: number }
  | undefined {
  const device = deviceSchema.safeParse(params);
  if (device.success) return { kind: "node", id: device.data.device };
  const input = inputSchema.safeParse(params);
  return input.success ? { kind: "input", ...input.data } : undefined;
}
