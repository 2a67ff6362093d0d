import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { csvResponse } from "@/app/library/csv";
import { materials, MATERIAL_GROUPS } from "@/core/visit/materials";

export function GET(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, (job) => {
    const packed = new Set(job.document.packed);
    const rows = materials(job.document).map(({ id, group, text, quantity, unit, why }) => ({
      group: MATERIAL_GROUPS[group],
      item: text,
      quantity,
      unit,
      for: why,
      packed: packed.has(id) ? "yes" : "",
    }));
    return csvResponse("materials", rows, ["group", "item", "quantity", "unit", "for", "packed"]);
  });
}
