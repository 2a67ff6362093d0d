import { parentPort } from "node:worker_threads";
import {
  printLabels,
  printReport,
  printWiring,
  type LabelsAsked,
  type ReportAsked,
  type WiringAsked,
} from "@/app/threads/printTasks";
import { serveTasks } from "@/workers/pool/serveTasks";

// What is asked comes from `printThreads` alone, which is typed by the same functions.
if (parentPort) {
  serveTasks(parentPort, {
    labels: (input) => printLabels(input as LabelsAsked),
    wiring: (input) => printWiring(input as WiringAsked),
    report: (input) => printReport(input as ReportAsked),
  });
}
