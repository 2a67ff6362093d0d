import { z } from "zod";
import { text } from "@/core/text";

/** What an entry of a device's menu sets, where the plan says which value. */
export const SETTING_IDS = [
  "grid-code",
  "mode",
  "inputs",
  "role",
  "ratio",
  "address",
  "baud",
  "parity",
  "stop-bits",
  "battery-model",
  "inverter-model",
  "modules",
  "parallel",
  "inverters",
  "backup",
  "carry-on",
  "reconnect",
  "voltage-limits",
  "limit",
  "limit-mode",
  "fail-safe",
  "hub",
  "clock",
  "zone",
] as const;

const entry = z.strictObject({
  field: text().trim().min(1).max(60).describe("What its menu calls it"),
  sets: z.enum(SETTING_IDS).optional().describe("What it sets, where the plan says which value"),
  input: z.int().min(1).max(99).optional().describe("Of which input"),
  value: text().trim().min(1).max(120).optional().describe("The value, where it is always the same"),
});

/** The entries of a device's own menu, in its order: what each sets, or its value. */
export const menuSchema = z
  .array(
    entry.refine(({ sets, value }) => (sets === undefined) !== (value === undefined), {
      path: ["value"],
      message: "either what it sets, or the value",
    }),
  )
  .max(60)
  .default([]);

/** What an entry of a menu sets. */
export type SettingId = (typeof SETTING_IDS)[number];
