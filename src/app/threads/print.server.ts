import { parentPort } from "node:worker_threads";
import {
  printHandedOver,
  printLabels,
  printOwnerSheet,
  printReport,
  printWiring,
  warmed,
  type HandedOverAsked,
  type LabelsAsked,
  type OwnerSheetAsked,
  type ReportAsked,
  type WiringAsked,
} from "@/app/threads/printTasks";
import { serveTasks } from "@/workers/pool/serveTasks";

// What is asked comes from `printThreads` alone, which is typed by the same functions.
if (parentPort) {
  serveTasks(parentPort, {
    warm: () => warmed,
    labels: (input) => printLabels(input as LabelsAsked),
    wiring: (input) => printWiring(input as WiringAsked),
    "handed-over": (input) => printHandedOver(input as HandedOverAsked),
    owner: (input) => printOwnerSheet(input as OwnerSheetAsked),
    report: (input) => printReport(input as ReportAsked),
  });
}
