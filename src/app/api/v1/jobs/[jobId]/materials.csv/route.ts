import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { csvResponse } from "@/app/library/csv";
import { MATERIAL_GROUPS } from "@/core/visit/bring/material";
import { materials } from "@/core/visit/materials";
import { PHASE_WORDS } from "@/core/visit/visitStep";

export function GET(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, (job) => {
    const packed = new Set(job.document.packed);
    const placeName = new Map(job.document.site.places.map(({ id, name }) => [id, name]));
    const rows = materials(job.document).map(({ id, group, text, quantity, unit, why, uses }) => ({
      group: MATERIAL_GROUPS[group],
      item: text,
      quantity,
      unit,
      for: why,
      used: uses
        .map((use) => `${placeName.get(use.place ?? "") ?? "everywhere"}, ${PHASE_WORDS[use.phase]}: ${use.quantity}`)
        .join("; "),
      packed: packed.has(id) ? "yes" : "",
    }));
    return csvResponse("materials", rows, ["group", "item", "quantity", "unit", "for", "used", "packed"]);
  });
}
