import { z } from "zod";
import { idSchema } from "@/core/names";
import { observationSchema } from "@/core/online/onlineSchema";
import { CHANGED_IDS } from "@/core/online/ways";

/** What was looked at of one device, and when. */
const seenSchema = observationSchema.extend({
  at: z.iso.datetime().describe("When it was seen"),
  byItself: z.boolean().optional().describe("Gormit itself tried it"),
});

/** What is known of one device's way to its owner. */
export const onlineRecordSchema = z.object({
  id: idSchema.describe("The device"),
  changed: z.enum(CHANGED_IDS).optional().describe("What changed lately"),
  observed: z.array(seenSchema).max(60).default([]).describe("What was looked at"),
  ownerSeesAt: z.iso.datetime().optional().describe("When the owner's own phone showed its data"),
});

/** What is known of all devices' ways to their owner. */
export const onlineRecordsSchema = z.array(onlineRecordSchema).max(80);

/** What is known of one device's way to its owner. */
export type OnlineRecord = z.output<typeof onlineRecordSchema>;
/** One thing that was seen of a device, with its time. */
export type SeenOnline = OnlineRecord["observed"][number];
