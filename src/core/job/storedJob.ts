import { z } from "zod";
import { jobDocumentSchema } from "@/core/job/jobDocument";
import { upgradeJob } from "@/core/job/upgradeJob";

/** A job as a database row, a draft or a file may hold it: of this version of the format or of an earlier one. */
export const storedJobSchema = z.preprocess((raw) => upgradeJob(raw).document, jobDocumentSchema);
