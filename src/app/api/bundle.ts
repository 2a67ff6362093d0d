import { currentReports, picturesOf } from "@/app/api/report";
import { PRIVATE, type Parsed } from "@/app/api/respond";
import { csvText } from "@/app/library/csv";
import { today } from "@/app/library/dateOf";
import { JOB_CSVS } from "@/app/library/jobCsv";
import { PROGRAM_VERSION } from "@/core/programVersion";
import { writeBundle, type NewBundleFile } from "@/app/library/bundle/writeBundle";
import { printedBytes } from "@/app/threads/printThreads";
import { JOB_PATH, LOG_PATH, REPORT_PATH } from "@/core/handover/bundle/bundleParts";
import { keptVersionSchema } from "@/core/handover/bundle/keptVersion";
import { checkChain, type ChainedLine } from "@/core/handover/logChain";
import { LEFT_OUT_OF_BUNDLE } from "@/core/job/copyMark";
import { fileStem } from "@/core/job/copyOfJob";
import { manyHandovers, maybeHandover } from "@/db/handover";
import type { Job } from "@/db/job";
import { manyPhotoMarks, maybePhoto } from "@/db/photo";
import { manyChainedLines, sha256Hex } from "@/db/visitChain";

const EXTENSIONS: Readonly<Record<string, string>> = { "image/jpeg": "jpg", "image/png": "png", "image/webp": "webp" };

/** Everything of a job as one zip, streamed. */
export async function bundleOf(request: Request, job: Job): Promise<Response> {
  const lines = await manyChainedLines(job.id);
  const papers = await papersOf(request, job);
  if (papers.kind === "refused") return papers.response;
  const files = [
    ...papers.value,
    text(JOB_PATH, `${JSON.stringify({ ...job.document, leavesOut: LEFT_OUT_OF_BUNDLE }, null, 2)}\n`),
    text(LOG_PATH, chainText(lines)),
    ...(await tablesOf(job)),
    ...(await handoversOf(job)),
    ...(await photosOf(job)),
  ];
  const about = {
    job: job.document.job.name,
    made: new Date().toISOString(),
    gormit: PROGRAM_VERSION,
    logHead: checkChain(lines, sha256Hex).head,
    leavesOut: [...LEFT_OUT_OF_BUNDLE],
  };
  return new Response(writeBundle(files, about), {
    headers: {
      ...PRIVATE,
      "content-type": "application/zip",
      "content-disposition": `attachment; filename="${fileStem(job.document)}.gormit-handover.zip"`,
    },
  });
}

/** The lines of a log as a file has them: a line each, its hash, a space, its text. */
export function chainText(lines: readonly ChainedLine[]): string {
  return lines.map(({ text: own, hash }) => `${hash ?? "-"} ${own}\n`).join("");
}

/** What is printed: the report, from the same data as beside it, and where there are any the labels and the wiring. */
async function papersOf(request: Request, job: Job): Promise<Parsed<readonly NewBundleFile[]>> {
  const current = await currentReports(request, job);
  if (current.kind === "refused") return current;
  const { text: report, sha256: fingerprint, report: told } = current.value.en;
  const printed = await printedBytes(request, {
    name: "handed-over",
    input: {
      report,
      fingerprint,
      signatures: [],
      paper: "a4",
      pictures: await picturesOf(job.id, told),
    },
  });
  if (printed.kind === "refused") return printed;
  const { document } = job;
  const labels = await printedBytes(request, { name: "labels", input: { document, form: "a4-24", date: today() } });
  const wiring = await printedBytes(request, { name: "wiring", input: { document, printed: today() } });
  const others = [
    { path: "labels.pdf", print: labels },
    { path: "wiring.pdf", print: wiring },
  ];
  return {
    kind: "ok",
    value: [
      text(REPORT_PATH, report),
      { path: "report.pdf", bytes: Buffer.from(printed.value.bytes) },
      // A plan without a link or a meter has nothing to print there.
      ...others.flatMap(({ path, print }) =>
        print.kind === "ok" ? [{ path, bytes: Buffer.from(print.value.bytes) }] : [],
      ),
    ],
  };
}

async function tablesOf(job: Job): Promise<readonly NewBundleFile[]> {
  return Promise.all(
    Object.entries(JOB_CSVS).map(async ([name, table]) => text(`${name}.csv`, csvText(await table(job)))),
  );
}

async function handoversOf({ id }: Job): Promise<readonly NewBundleFile[]> {
  const kept = await Promise.all((await manyHandovers(id)).map(({ number }) => maybeHandover(id, number)));
  return kept.flatMap((own) => {
    if (!own) return [];
    const { report, ...version } = own;
    return [
      text(`handovers/${own.number}.json`, `${JSON.stringify(keptVersionSchema.parse(version), null, 2)}\n`),
      text(`handovers/${own.number}.report.json`, report),
    ];
  });
}

async function photosOf({ id }: Job): Promise<readonly NewBundleFile[]> {
  return (await manyPhotoMarks(id)).map((photo) => ({
    path: `photos/${photo.id}.${EXTENSIONS[photo.type] ?? "jpg"}`,
    bytes: photo.size,
    sha256: photo.sha256,
    fetch: async () => {
      const kept = await maybePhoto(id, photo.id);
      if (!kept) throw new Error(`photo ${photo.id} went while the bundle was made`);
      return kept.bytes;
    },
  }));
}

function text(path: string, content: string): NewBundleFile {
  return { path, bytes: Buffer.from(content) };
}
