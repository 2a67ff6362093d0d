import { NEED_WORDS } from "@/core/handover/registration/registrationsDue";
import type { ItemWords } from "@/core/handover/words/itemWords";
import { daysLeftText } from "@/core/job/deadline";
import { counted, joined } from "@/core/words";

/** A hand over in English: as a technician says it. */
export const ITEM_ENGLISH: ItemWords = {
  verdicts: {
    "as-planned": "the readings say that everything is as planned",
    "faults-found": "the readings show a fault in the fitting",
    ambiguous: "the readings leave more than one explanation",
    "not-explained": "nothing explains the readings",
    "reading-doubtful": "one reading is doubtful",
  },
  limitVerdicts: {
    holds: "a step test on site held it",
    "too-long": "the last step test was above it for too long",
    "too-high": "the last step test settled above it",
    hunts: "the last step test did not come to rest",
    untested: "the last step test never came near it",
  },
  fallbackVerdicts: {
    "falls-back": "without the meter the inverters fell back in time",
    late: "without the meter the inverters fell back too late",
    stays: "without the meter the inverters went on",
    untested: "the last test had nothing to fall back from",
  },
  needs: NEED_WORDS,
  nothingRead: "nothing was read yet",
  beingWeighed: "the readings are being weighed",
  simulated: (count, all) => `simulated, ${count} of ${counted(all, "step", "steps")}: that proves nothing of the site`,
  beforeCopy: (count, all) =>
    `from before this copy was made, ${count} of ${counted(all, "reading", "readings")}: read again what is here`,
  readSo: (verdict, readings, steps) =>
    `${verdict}; ${counted(readings, "reading", "readings")} in ${counted(steps, "step", "steps")}`,
  everyReading: (isProved) => (isProved ? "Every reading is proved" : "Not every reading is proved"),
  limit: (powerW, isProved) => `The export limit of ${powerW} W is ${isProved ? "" : "not "}proved`,
  noStepTest: "no step test of this limit was recorded on site",
  stillToProve: (phases) => `still to prove: ${joined(phases)}`,
  fallback: (isProved) =>
    isProved
      ? "The inverters fall back without their meter"
      : "Not proved: the inverters fall back without their meter",
  meterNotTaken: "the meter was not taken away yet",
  ownerSees: (device, isSeen) => (isSeen ? `The owner sees ${device}` : `The owner does not see ${device} yet`),
  ownPhone: (isSeen) => (isSeen ? "their own phone showed its data" : "their own phone has not shown its data yet"),
  daysLeft: daysLeftText,
  lostWhenLate: (lost) => `lost when it is late: ${lost}`,
  registered: "registered, and confirmed",
  sent: "sent; its confirmation is not there yet",
  stillNeeds: (needs) => `it still needs ${joined(needs)}`,
  sendIt: (until) => `everything for it is there: send it${until === undefined ? "" : ` until ${until}`}`,
  wasDue: (on) => `was due on ${on}`,
  stopped: "it was stopped: something is outside its limits",
  everyStep: "Every step is done",
  byLog: "by the log",
  openSteps: (count) => (count === 1 ? "One step is open" : `${count} steps are open`),
  more: (count) => `and ${count} more`,
  skipped: (step) => `Skipped: ${step}`,
  state: (missing) => (missing === 0 ? "done" : `${missing} missing`),
};
