import { readdir, readFile } from "node:fs/promises";
import { importJob } from "@/core/job/importJob";
import { pathText } from "@/core/problem";
import { closeDatabase } from "@/db/client";
import { createJob } from "@/db/job";
import { summarised } from "@/workers/jobTasks";

const DEMO_FOLDER = new URL("../demo/", import.meta.url);

/** Load every demo job that this database has not had yet, deleted or not. */
async function main(): Promise<void> {
  for (const file of (await readdir(DEMO_FOLDER))
    .filter((name) => name.endsWith(".json"))
    .sort()
    .reverse()) {
    const outcome = importJob(await readFile(new URL(file, DEMO_FOLDER), "utf8"));
    if (outcome.kind === "bad-file") {
      throw new Error(
        `demo/${file}: ${outcome.problems.map(({ path, message }) => `${pathText(path)}: ${message}`).join("; ")}`,
      );
    }
    await createJob(summarised(outcome.document), { demoKey: file.replace(/\.json$/, "") });
  }
  await closeDatabase();
}

await main();
