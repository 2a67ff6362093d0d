import { withJob, type JobContext } from "@/app/api/v1/jobs/withJob";
import { csvResponse } from "@/app/library/csv";
import { resolve } from "@/core/plan/resolve";
import { wholeWiring } from "@/core/links/wiring/meterWiring";

export function GET(_: Request, context: JobContext): Promise<Response> {
  return withJob(context, (job) => {
    const done = new Set(job.document.terminated);
    const cores = wholeWiring(resolve(job.document)).flatMap((group) => group.rows);
    const rows = cores.map((row) => ({
      link: row.link,
      cable: row.cable,
      colour: row.colour,
      pair: row.pair,
      signal: row.role,
      from: `${row.from.item} ${row.from.port}`,
      terminal: row.from.terminal,
      pin: row.from.pin ?? "",
      ferrule: row.from.ferrule ?? "",
      to: row.to ? `${row.to.item} ${row.to.port}` : "",
      "to terminal": row.to?.terminal ?? "",
      "to pin": row.to?.pin ?? "",
      "to ferrule": row.to?.ferrule ?? "",
      note: row.notes.join("; "),
      done: done.has(row.id) ? "yes" : "",
    }));
    return csvResponse("wiring", rows, [
      "link",
      "cable",
      "colour",
      "pair",
      "signal",
      "from",
      "terminal",
      "pin",
      "ferrule",
      "to",
      "to terminal",
      "to pin",
      "to ferrule",
      "note",
      "done",
    ]);
  });
}
