import { inLanguage } from "@/ui/words/inLanguage";

const ENGLISH = {
  adapter: "Adapter",
  address: (unit: number) => `address ${unit}`,
  addressOf: (unit: number, how: string) => `address ${unit} (${how})`,
  addressOrName: "Address or name",
  answers: "answers",
  answersOf: (found: string) => `Answers: ${found}.`,
  aRoundInMs: (cycleMs: number) => `, a round in ${cycleMs} ms`,
  asIntoTheDeviceReadsItBack: (what: string) =>
    `as ${what} into the device, reads it back, and stands in the log. The maker’s manual says whether it may be ` +
    "changed while the device runs.",
  cancel: "Cancel",
  chooseOne: "choose one",
  comesBroken: "comes broken",
  connect: "Connect",
  connectAMeter: "Connect a meter",
  connecting: "connecting",
  connectToTheBench: (words: string) => `Connect to the bench, ${words}`,
  differs: "differs",
  disconnect: "Disconnect",
  findSettings: "Find settings",
  gormitReadsAndOnlyWhatThisJobs:
    "Gormit reads, and only what this job’s links name; it writes nothing but a setting that you arm by its " +
    "name. A plug in a switchboard is a live part: isolate, prove dead, then connect. Local rules and the " +
    "maker’s manual come first.",
  guidedProof: "Guided proof",
  itIsSwitched: "It is switched",
  itSaysWhatToSwitchSeesItAndTakes: "It says what to switch, sees it, and takes the reading when it stands still.",
  kWh: (value: string) => `${value} kWh`,
  live: (name: string) => `Live: ${name}`,
  liveReadings: "Live readings",
  meterAnswers: "meter answers",
  metersAnswer: "meters answer",
  modbusRtuThroughAConverter: "Modbus RTU through a converter",
  modbusTcp: "Modbus TCP",
  mqtt: "MQTT",
  mqttBroker: "MQTT broker",
  ms: (answerMs: number) => `, ${answerMs} ms`,
  noAnswer: "no answer",
  nobodyAnsweredYet: "Nobody answered yet.",
  noDeviceOfThisPlanHasARegisterList: "No device of this plan has a register list. Give its kit one, under Kits.",
  noMeterIsConnected: "no meter is connected",
  noneIsPluggedInHere: "none is plugged in here",
  notAskedYet: "not asked yet",
  notConnected: "not connected",
  nothingReadYet: "Nothing read yet.",
  nothingThatCouldBeSwitchedOnHere: "Nothing that could be switched on here would tell more.",
  notSaid: "not said",
  of: (answeringCount: number, meteredCount: number, which: string) => `${answeringCount} of ${meteredCount} ${which}`,
  ofAnswer: (answering: number, devicesCount: number) => `${answering} of ${devicesCount} answer`,
  off: "off",
  ofTried: (which: string, tried: number, total: number, which2: string) =>
    `${which}: ${tried} of ${total} tried. ${which2}`,
  oneSettingDiffersFromThePlan: "One setting differs from the plan.",
  plannedOrTyped: "Planned or typed",
  port: "Port",
  read: "Read",
  readBack: "Read back",
  readingBack: "Reading back",
  readSAgo: (value: number) => `read ${value} s ago`,
  refuses: "refuses",
  rtuLine: "RTU line",
  searched: "Searched",
  searching: "Searching",
  serialAdapterOnThisMachine: "Serial adapter on this machine",
  setAsPlannedAndTyped: "Set as planned and typed.",
  setting: "Setting",
  settingsDifferFromThePlan: (count: number) => `${count} settings differ from the plan.`,
  step: (step: number, why: string) => `Step ${step}: ${why}`,
  stepIsTakenTheMeanOfReadings: (step: number, count: number, spreadW: number) =>
    `Step ${step} is taken: the mean of ${count} readings each, spread at most ${spreadW} W.`,
  stop: "Stop",
  takeReadingsOfStep: (at: number) => `Take readings of step ${at}`,
  theBenchIsBeingSwitched: "The bench is being switched …",
  theBenchSwitchesByItselfThese:
    "The bench switches by itself. These readings are of the bench: they prove nothing of the real site.",
  theVerdictStandsSeeAbove: "The verdict stands: see above.",
  thisCannotBeConnectedYet: "This cannot be connected yet.",
  thisWrites: "This writes",
  toWriteSayUnderRunWhoYouAre: (what: string) => `To write ${what}, say under Run who you are`,
  waitingForTheFirstReading: "waiting for the first reading",
  waitingUntilItStandsStill: "waiting until it stands still",
  way: "Way",
  weighingWhatWasRead: "Weighing what was read …",
  writeAsPlanned: (what: string) => `Write ${what} as planned`,
  writeItNow: "Write it now",
  writtenInto: (device: string, what: string, planned: string, unit: string) =>
    `Written into ${device}: ${what}, ${planned} ${unit}`,
};

/** What Live says, in one language; a second one has the same words. */
export type LiveWords = typeof ENGLISH;

/** What is said in Live, in the language of the app. */
export const LIVE_WORDS = inLanguage<LiveWords>({ en: ENGLISH });
