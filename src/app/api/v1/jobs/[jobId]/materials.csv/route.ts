import { answered, errorResponse } from "@/app/api/respond";
import { csvResponse } from "@/app/library/csv";
import { materials, MATERIAL_GROUPS } from "@/core/procedure/materials";
import { maybeJob } from "@/db/job";

export function GET(_: Request, { params }: { params: Promise<{ jobId: string }> }): Promise<Response> {
  return answered(async () => {
    const job = await maybeJob((await params).jobId);
    if (!job) return errorResponse("not-found", "There is no such job, or it was deleted.");
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
