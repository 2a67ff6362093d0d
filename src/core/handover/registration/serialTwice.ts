import { z } from "zod";

/** A serial number that another job, or another device, has too. */
export const serialTwiceSchema = z.strictObject({
  serial: z.string(),
  job: z.string().describe("Name of the other job"),
  jobId: z.uuid(),
  device: z.string().describe("Id of the device there"),
});

/** Serial numbers of a job that stand elsewhere too. */
export const serialsTwiceSchema = z.strictObject({ twice: z.array(serialTwiceSchema) });

/** A serial number that stands elsewhere too. */
export type SerialTwice = z.output<typeof serialTwiceSchema>;
