import type { Verdict } from "@/core/flows/diagnose";
import { ITEM_ENGLISH } from "@/core/handover/words/itemEnglish";
import { SIGNER_WORDS } from "@/core/handover/version/signature";
import type { ReportWords } from "@/core/handover/report/words/reportWords";
import { LINK_WORDS } from "@/core/plan/linkSchema";
import { arrowWords } from "@/core/site/arrowWords";
import { supplyWords } from "@/core/site/supplyWords";
import { LOG_WORDS } from "@/core/visit/visitLog";

const VERDICTS: Readonly<Record<Verdict, string>> = {
  "as-planned": "as planned",
  "faults-found": "faults found",
  ambiguous: "not certain yet",
  "not-explained": "not explained",
  "reading-doubtful": "a reading is doubtful",
};

/** A report in English. */
export const REPORT_ENGLISH: ReportWords = {
  items: ITEM_ENGLISH,
  parts: {
    state: "What is proved, and what is not",
    site: "Site and supply",
    devices: "Devices",
    cts: "CTs as fitted",
    links: "Links",
    readings: "Readings",
    limit: "Export limit",
    settings: "Settings read back",
    online: "Online",
    papers: "Registration and transfer",
    photographs: "Photographs",
    log: "The log",
  },
  reportOf: (job) => `Report of ${job}`,
  contents: "Contents",
  done: "Done: everything is proved or accepted",
  version: (number) => `Hand over, version ${number}`,
  page: (number, of) => `page ${number} of ${of}`,
  signers: SIGNER_WORDS,
  data: "Data",
  log: "Log",
  caution:
    "This report says what was measured and recorded. It takes the place of no inspection, of no local rule and of " +
    "no maker's manual.",
  otherwise: undefined,
  states: { proved: "proved", missing: "missing", accepted: "accepted" },
  heads: {
    state: ["State", "What", "Why"],
    devices: ["Device", "Kit", "Place", "Serial number"],
    cts: ["CT", "Meter", "Round", "Ratio", "Arrow points", "Leads"],
    links: ["Link", "Kind", "Joins", "Cable"],
    readings: ["CT", "Expected", "Measured", "Inside"],
    stepTests: ["Test", "When", "Who", "Verdict", "Largest", "Settled"],
    withoutMeter: ["When", "Who", "Verdict", "Took", "From", "To"],
    settings: ["Device", "Setting", "Planned or typed", "Read", "Compared"],
    online: ["Device", "Way", "Through", "Proved", "The owner saw it"],
    registrations: ["What", "Device", "By", "Due on", "State", "Reference"],
    transfer: ["Stage", "State", "To fix"],
    log: ["When", "Who", "What", "Text"],
  },
  tables: {
    stepTests: "Step tests",
    withoutMeter: "Without the meter",
    registrations: "Registrations",
    transfer: "Transfer to the owner",
  },
  yesNo: (is) => (is ? "yes" : "no"),
  supply: supplyWords,
  madeBy: (version) => `Made by Gormit ${version}`,
  noCt: "no CT",
  nothing: "nothing",
  round: (conductor, run) => `${conductor} of ${run}`,
  ratio: (primaryA, secondary, turns, typedA) =>
    `${primaryA} A : ${secondary}${turns > 1 ? `, ${turns} turns` : ""}, typed ${typedA} A`,
  arrows: { "to-load": arrowWords("to-load"), "to-grid": arrowWords("to-grid") },
  linkKinds: LINK_WORDS,
  address: (address) => `address ${address}`,
  terminatorOn: "terminator on",
  simulatedStep: "simulated: proves nothing",
  onBench: "on the bench: proves nothing",
  nothingRead: "Nothing was read.",
  notWeighed: "Not weighed here: this site takes longer to be judged than a report can wait.",
  verdict: (verdict) => `Verdict: ${VERDICTS[verdict]}.`,
  likeliest: (what, chance) => `Likeliest: ${what}, ${chance}.`,
  others: (all) => `Other explanations: ${all}.`,
  lessThan: (percent) => `less than ${percent} %`,
  noLimit: "No limit is set.",
  limit: (powerW, basis, secondsAllowed) =>
    `${powerW} W ${basis === "sum" ? "on the sum of the phases" : "on each phase"}, above it for at most ` +
    `${secondsAllowed} s.`,
  rule: (rule) => `Rule: ${rule}.`,
  setPoint: (powerW) => `Set-point typed: ${powerW} W.`,
  stepVerdicts: {
    holds: "holds",
    "too-long": "above it for too long",
    "too-high": "settled above it",
    hunts: "did not come to rest",
    untested: "never came near it",
  },
  fallbackVerdicts: {
    "falls-back": "fell back in time",
    late: "fell back too late",
    stays: "went on",
    untested: "nothing to fall back from",
  },
  exportOf: (test) => `Export, ${test}`,
  limitMark: (powerW) => `limit ${powerW} W`,
  notReadBack: "Nothing was read back.",
  notSaid: "not said",
  compared: (isDifferent) => (isDifferent ? "differs" : "the same"),
  noWay: "no way",
  installedOn: (day) => `Installed on: ${day ?? "not said yet"}`,
  stageState: (doneOn) => (doneOn === undefined ? "open" : `done, ${doneOn}`),
  noPhotograph: "None was taken.",
  emptyLog: "Nothing was written yet.",
  lastHash: (hash) => `Last hash: ${hash}`,
  logKinds: LOG_WORDS,
};
