import { inLanguage } from "@/ui/words/inLanguage";

const ENGLISH = {
  aCt: "A CT",
  arrow: (arrow: string) => `, arrow ${arrow}`,
  arrowOf: (arrow: string) => `arrow ${arrow},`,
  arrowPositiveIsFlow: (name: string, arrow: string, whose: string, arrow2: string, whose2: string) =>
    `${name}: arrow ${arrow} (${whose}), positive is flow ${arrow2} (${whose2}).`,
  arrowWith: (more: string, arrow: string) => `arrow ${more}${arrow}`,
  asFitted: "as fitted",
  asSetUnderDevices: "as set under Devices",
  asTheKitWantsIt: "as the kit wants it",
  asThePlanSays: "as the plan says",
  atOnceEachOnItsOwnPhase: (phases: string) => `${phases} at once, each on its own phase`,
  cannotReadThisCt: "cannot read this CT",
  circuitOf: (name: string) => `circuit of ${name}`,
  circuits: "Circuits",
  ct: (id: string) => `CT ${id}`,
  ctOf: (inputTag: string) => `CT of ${inputTag}`,
  ctOnArrow: (window: string, arrow: string, leads: string, plug: string) =>
    `CT on ${window}, arrow ${arrow}${leads}, ${plug}`,
  devices: "Devices",
  dragACtOrTapItAndThenAConductor: "Drag a CT, or tap it and then a conductor. Keys: arrows look, Enter picks up,",
  enterPicksItUpArrowsThenMoveItF:
    "Enter picks it up, arrows then move it, F turns it, S swaps its leads, a digit chooses its input, Delete " +
    "takes it off, Enter puts it down, Escape puts it back.",
  expected: "expected",
  feedsInput: (inputTag: string) => `feeds input ${inputTag}`,
  hasNoCtYetItGoesRound: "has no CT yet; it goes round ",
  input: "Input",
  inputHasNoCt: (inputTag: string) => `Input ${inputTag} has no CT`,
  inTheHand: "In the hand",
  inTheHandArrowsMoveItFTurnsItS:
    "In the hand: arrows move it, F turns it, S swaps its leads, Enter puts it down, Escape puts it back.",
  isolateAndProveDeadBeforeYouReach:
    "Isolate and prove dead before you reach in. Leads into the meter first, then the CT; never open the leads " +
    "of a current-output CT on a conductor. Local rules, the maker’s manual and a licensed electrician come " +
    "before this page.",
  isOnWantedOn: (is: string, wanted: string) => `is on ${is}, wanted on ${wanted}`,
  isRoundNoConductorTapThen: (which: string) => `${which} is round no conductor: tap, then the conductor`,
  itMeasuresThisKitWantsTheArrowA: (window: string, arrow: string, primaryA: number, value: number, unit: string) =>
    `It measures ${window}; this kit wants the arrow ${arrow}, ${primaryA} A : ${value} ${unit}.`,
  leadsSwapped: ", leads swapped",
  listsTheOthers: "lists the others.",
  meters: "Meters",
  noConductor: "no conductor",
  noCtTapThenTapTheConductor: "no CT: tap, then tap the conductor",
  noInput: "no input",
  none: "none",
  notPluggedIn: "not plugged in",
  notPluggedInOf: (loose: string) => `Not plugged in: ${loose}`,
  of: (conductor: string, name: string) => `${conductor} of ${name}`,
  ofTheCircuitOf: (conductor: string, node: string) => `${conductor} of the circuit of ${node}`,
  on: (id: string, window: string) => `${id} on ${window}`,
  onOf: (tap: string, phase: string) => `${tap} on ${phase}`,
  otherwise: "otherwise",
  overriddenInThePlan: "overridden in the plan",
  pickedCt: "Picked CT",
  pickedUp: "picked up",
  place: "Place",
  placeAllMissingCTsAsPlanned: (missing: number) => `Place all ${missing} missing CTs as planned`,
  placeItAsPlanned: "Place it as planned",
  placeTheMissingCtAsPlanned: "Place the missing CT as planned",
  primary: "Primary",
  putBack: "put back",
  putDown: "Put down",
  putDownLower: "put down",
  railBoard: "Rail board",
  remove: "Remove",
  round: (conductor: string, name: string) => `Round ${conductor} ${name}`,
  roundLower: "round",
  circuit: "Circuit",
  severalCircuitsThroughOneWindow: "Several circuits through one window",
  supply: "Supply",
  swapLeads: "Swap leads",
  tapAConductorToMoveItOrAnInput: "Tap a conductor to move it, or an input to plug it in.",
  tapTheConductor: "Tap the conductor.",
  tapTheConductorThatItsCtIsRound: "Tap the conductor that its CT is round.",
  tapThenTheConductor: "Tap, then the conductor.",
  thisPlanHasNoMeterAMeterComes:
    "This plan has no meter. A meter comes with the plan: import a job that has one, or make a new job.",
  turnRound: "Turn round",
  turns: "Turns",
  wanted: (wanted: string) => `wanted: ${wanted}`,
  wantedOf: (arrow: string) => `${arrow}, wanted `,
  whatIsOn: "What is on",
  whereTheCtIs: "Where the CT is",
  whyItReadsThis: (value: string) => `Why it reads this: ${value}`,
};

/** What Place says, in one language; a second one has the same words. */
export type PlaceWords = typeof ENGLISH;

/** What is said in Place, in the language of the app. */
export const PLACE_WORDS = inLanguage<PlaceWords>({ en: ENGLISH });
