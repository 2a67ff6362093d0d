import { z } from "zod";
import { idSchema } from "@/core/names";

const deviceSchema = idSchema.describe("The device");

/** What is wrong between the devices of a bench and their owner. */
export const networkFaultSchema = z.discriminatedUnion("kind", [
  z.strictObject({ kind: z.literal("gateway-off") }),
  z.strictObject({ kind: z.literal("line-down") }),
  z.strictObject({ kind: z.literal("login-page") }),
  z.strictObject({ kind: z.literal("names-fail") }),
  z.strictObject({ kind: z.literal("service-blocked") }),
  z.strictObject({ kind: z.literal("no-power"), device: deviceSchema }),
  z.strictObject({ kind: z.literal("passphrase-wrong"), device: deviceSchema }),
  z.strictObject({ kind: z.literal("no-address"), device: deviceSchema }),
  z.strictObject({
    kind: z.literal("clock-off"),
    device: deviceSchema,
    seconds: z.number().min(-1e9).max(1e9).describe("How far its clock is off, s"),
  }),
  z.strictObject({ kind: z.literal("not-registered"), device: deviceSchema }),
  z.strictObject({ kind: z.literal("other-account"), device: deviceSchema }),
]);

/** Something that is wrong between the devices of a bench and their owner. */
export type NetworkFault = z.output<typeof networkFaultSchema>;

const KINDS: readonly string[] = networkFaultSchema.options.map((option) => option.shape.kind.value);

/**
 * Whether a fault is of the way online.
 *
 * @example isNetworkFault({ kind: "line-down" }) // true
 */
export function isNetworkFault(fault: { readonly kind: string }): fault is NetworkFault {
  return KINDS.includes(fault.kind);
}
