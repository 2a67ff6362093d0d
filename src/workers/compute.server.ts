import { parentPort } from "node:worker_threads";
import { computeAnswer, type ComputeName } from "@/workers/computeTasks";
import { readImport, readKit, readSave, summarised, type ImportedFile, type LoggedJob } from "@/workers/jobTasks";
import { serveTasks, type ThreadWork } from "@/workers/pool/serveTasks";

/** The tasks of a thread. Their inputs come from `serverThreads` alone, which is typed by the same functions. */
const TASKS: Readonly<Record<string, ThreadWork>> = {
  compute: (input) => {
    const { name, body } = input as { name: ComputeName; body: Uint8Array };
    return computeAnswer(name, body);
  },
  save: async (input) => readSave(input as Uint8Array),
  import: async (input) => readImport(input as ImportedFile),
  kit: async (input) => readKit(input as Uint8Array),
  summary: async (input) => {
    const { document, entries } = input as LoggedJob;
    return summarised(document, entries);
  },
};

if (parentPort) serveTasks(parentPort, TASKS);
