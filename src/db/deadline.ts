import { z } from "zod";
import type { ListedDeadline } from "@/core/handover/allDeadlines";
import { jobDeadlineSchema } from "@/core/handover/jobDeadlines";
import type { SerialTwice } from "@/core/handover/registration/serialTwice";
import { serialTwiceSchema } from "@/core/handover/registration/serialTwice";
import { query } from "@/db/client";

/** More than this nobody works through; the nearest come first. */
const MOST_DEADLINES = 2000;
const MOST_TWICE = 100;

const rowSchema = z.object({ job_id: z.uuid(), job: z.string(), deadline: jobDeadlineSchema });

/** The deadlines of every job that is not deleted, the nearest first; those that are done are left out. */
export async function manyDeadlines(): Promise<readonly ListedDeadline[]> {
  const rows = await query(
    `select job.id as job_id, job.name as job, deadline
     from job cross join lateral jsonb_path_query(summary, '$.deadlines[*]') deadline
     where deleted_at is null and deadline ->> 'doneOn' is null
     order by deadline ->> 'on', job.name, deadline ->> 'id' limit ${MOST_DEADLINES}`,
  );
  // One that cannot be read must not hide those of every other job.
  return rows.flatMap((row) => {
    const { success, data } = rowSchema.safeParse(row);
    return success ? [{ ...data.deadline, jobId: data.job_id, job: data.job }] : [];
  });
}

/** Serial numbers of a job that were recorded for another device too, of this job or of another one. */
export async function manySerialsTwice(jobId: string): Promise<readonly SerialTwice[]> {
  const rows = await query(
    `with own as (
       select distinct upper(body ->> 'serial') as serial, step from visit_entry
       where job_id = $1 and kind = 'result' and body ? 'serial'
     )
     select distinct e.body ->> 'serial' as serial, job.name as job, job.id as "jobId",
       substring(e.step from 8) as device
     from own join visit_entry e on upper(e.body ->> 'serial') = own.serial and e.kind = 'result'
     join job on job.id = e.job_id
     where job.deleted_at is null and (e.job_id <> $1 or e.step <> own.step) and e.step like 'serial:%'
     order by 1, 2, 4 limit ${MOST_TWICE}`,
    [jobId],
  );
  return rows.map((row) => serialTwiceSchema.parse(row));
}
