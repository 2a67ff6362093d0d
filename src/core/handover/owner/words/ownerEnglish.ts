import type { OwnerWords } from "@/core/handover/owner/words/ownerWords";
import { RHYTHM_WORDS } from "@/core/chain/lampPatterns";
import { joined } from "@/core/words";

/** The owner's page in English. */
export const OWNER_ENGLISH: OwnerWords = {
  title: "Your site",
  otherLanguages: "In another language",
  foot: "The makers’ manuals come first. This page was made by Gormit from the plan of your site.",
  parts: {
    picture: "What is there, and where the power goes",
    shows: "What the display shows",
    lamps: "What the lamps mean",
    surplus: "Where what is left over goes",
    usual: "What is usual",
    router: "When the router, its name or its passphrase changes",
    call: "When to call whoever installed it",
  },
  flows: {
    "no flow": "no flow",
    importing: "importing",
    exporting: "exporting",
    generating: "generating",
    consuming: "consuming",
    charging: "charging",
    discharging: "discharging",
    taking: "taking",
    "feeding in": "feeding in",
    "feeding back": "feeding back",
  },
  plusMinus: (meter, plus, minus) => `${meter}: a plus is ${plus}, a minus is ${minus}`,
  colours: {},
  rhythms: RHYTHM_WORDS,
  times: (count) => `${count} times`,
  lamp: (device, lamp, look) => `${device}, lamp ${lamp}, ${look}`,
  does: {
    grid: "gives what is missing, takes what is left over",
    board: "parts the power",
    load: "uses power",
    "test-load": "uses power",
    "pv-inverter": "makes power from the sun",
    "battery-inverter": "stores power and gives it back",
    "hybrid-inverter": "makes power from the sun, stores it and gives it back",
    diverter: "heats water with what is left over",
    "ev-charger": "charges the car",
    "heat-pump": "heats the house",
    generator: "makes power when the grid is away",
  },
  pictureAbout: (first) => `From ${first} down: what feeds what`,
  places: { battery: "the battery", heater: "hot water", vehicle: "the car" },
  surplus: (places) =>
    `What the house does not use goes first to ${joined(places.map((own, at) => (at === 0 ? own : `then ${own}`)))}.`,
  surplusRest: (limitW) =>
    limitW === undefined
      ? "What is left then goes into the grid."
      : `What is left then goes into the grid, at most ${limitW} W; what is more is not made.`,
  lag: (minutes) => `What the phone shows may be up to ${minutes} minutes old.`,
  solarSleeps: "Without light the solar inverter sleeps, and its display is dark.",
  newBattery: "A new battery charges first, and rests when it is full or empty.",
  hotTank: "A hot tank takes nothing: what is left over then goes into the grid.",
  chargerWaits: "A charger waits where the main fuse would be overloaded, and begins again by itself.",
  asManual: (device) => `${device}: enter the new network as its manual says.`,
  firstRouter: "Give the new router the old name and passphrase where it can: then nothing needs to be done.",
  call: [
    "A lamp is red, or shows the same fault for a day.",
    "Something is hot, smells or hums: switch it off as you were shown, and call at once.",
    "The display shows exporting while all is off and it is dark, or importing at noon with little on.",
    "Do not open any cover: parts behind it are live even when the supply is off.",
  ],
};
