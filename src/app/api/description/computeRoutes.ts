import type { z } from "zod";
import { diversionRequestSchema, diversionResponseSchema } from "@/core/simulation/diversionSchema";
import { exportLimitRequestSchema, exportLimitResponseSchema } from "@/core/simulation/exportLimitSchema";
import { balanceRequestSchema } from "@/core/flows/balance";
import {
  balanceResponseSchema,
  diagnoseLogResponseSchema,
  diagnoseResponseSchema,
  predictResponseSchema,
  proofPlanResponseSchema,
} from "@/core/flows/computeResponses";
import { diagnoseLogRequestSchema } from "@/core/flows/log/logSchema";
import { proofPlanRequestSchema } from "@/core/flows/proof/proofPlan";
import { diagnoseRequestSchema } from "@/core/flows/diagnose";
import { predictRequestSchema } from "@/core/flows/predict";
import { canRequestSchema, canResponseSchema } from "@/core/links/bus/can";
import { ethernetRequestSchema, ethernetResponseSchema } from "@/core/links/network/ethernet";
import { radioRequestSchema, radioResponseSchema } from "@/core/links/air/radio";
import { rs485RequestSchema, rs485ResponseSchema } from "@/core/links/bus/rs485Schema";
import { onlineRequestSchema, onlineResponseSchema } from "@/core/online/onlineSchema";
import { scheduleRequestSchema, scheduleResponseSchema } from "@/core/visit/schedule/scheduleSchema";
import { visitRequestSchema, visitResponseSchema } from "@/core/visit/computeVisit";
import { ctRequestSchema, ctResponseSchema } from "@/core/sensing/computeCt";

const T568B = ["white-orange", "orange", "white-green", "blue", "white-blue", "green", "white-brown", "brown"];
/** A house with one meter at its supply. */
const SITE = {
  supply: { system: "single-phase", voltageV: 230 },
  nodes: [
    { id: "grid", kind: "grid", name: "Supply" },
    { id: "board", kind: "board", name: "Main board", fedFrom: "grid", phases: ["L1"] },
    { id: "house", kind: "load", name: "House", fedFrom: "board", phases: ["L1"] },
    { id: "kettle", kind: "test-load", name: "Kettle", fedFrom: "board", phases: ["L1"], ratedW: 2200 },
  ],
  meters: [
    {
      id: "meter",
      name: "Grid meter",
      taps: { V1: "L1" },
      inputs: [
        {
          n: 1,
          measures: [{ run: "board", conductor: "L1" }],
          tap: "V1",
          arrow: "to-load",
          positive: "to-load",
          primaryA: 100,
          secondary: { value: 0.333, unit: "V" },
        },
      ],
    },
  ],
  cts: [
    {
      id: "ct-1",
      around: [{ run: "board", conductor: "L1" }],
      arrow: "to-load",
      primaryA: 100,
      secondary: { value: 0.333, unit: "V" },
      plug: { meter: "meter", input: 1 },
    },
  ],
};

/** A stateless route under /api/v1/compute: what it takes and gives. */
export interface ComputeRoute {
  readonly name: string;
  readonly summary: string;
  readonly request: z.ZodType;
  readonly response: z.ZodType;
  readonly example?: object;
}

export const COMPUTE_ROUTES: readonly ComputeRoute[] = [
  {
    name: "predict",
    summary: "What every meter input reads in a state of the site, as planned or as fitted.",
    request: predictRequestSchema,
    response: predictResponseSchema,
    example: { site: SITE, as: "planned", state: { devices: [{ node: "kettle", powerW: 2200 }] } },
  },
  {
    name: "diagnose",
    summary: "Which faults in the fitting explain what was seen, and what to switch on next.",
    request: diagnoseRequestSchema,
    response: diagnoseResponseSchema,
    example: {
      site: SITE,
      steps: [
        {
          label: "Kettle on",
          devices: [{ node: "kettle", powerW: 2200 }],
          readings: [{ meter: "meter", input: 1, powerW: -2410 }],
        },
      ],
    },
  },
  {
    name: "diagnose-log",
    summary: "Which faults in the fitting explain hours of recorded readings, without switching anything.",
    request: diagnoseLogRequestSchema,
    response: diagnoseLogResponseSchema,
    example: {
      site: {
        ...SITE,
        nodes: [
          ...SITE.nodes,
          { id: "roof", kind: "pv-inverter", name: "Roof", fedFrom: "board", phases: ["L1"], ratedW: 5000 },
        ],
      },
      times: [0, 300, 600, 900, 1200],
      readings: [{ meter: "meter", input: 1, powerW: [310, -420, -1590, -2180, -880] }],
      known: [{ node: "roof", powerW: [0, -730, -1900, -2500, -1200] }],
    },
  },
  {
    name: "proof-plan",
    summary: "The fewest minutes of switching after which every single fault is told, and what no reading can tell.",
    request: proofPlanRequestSchema,
    response: proofPlanResponseSchema,
    example: { site: SITE },
  },
  {
    name: "balance",
    summary: "Whether displayed values of one moment add up, and what would close the gap.",
    request: balanceRequestSchema,
    response: balanceResponseSchema,
    example: {
      values: [
        { role: "grid", shownW: 1240, positive: "source", resolutionW: 10, atS: 0 },
        { role: "house", shownW: 1230, positive: "sink", resolutionW: 10, atS: 0 },
      ],
    },
  },
  {
    name: "ct",
    summary: "Errors of a CT and meter at a current, burden and longest lead, and the ratio to type.",
    request: ctRequestSchema,
    response: ctResponseSchema,
    example: {
      class: "0.5",
      meterClassPct: 0.5,
      primaryA: 600,
      secondary: { value: 5, unit: "A" },
      currentA: 300,
      powerFactor: 0.9,
      voltageV: 230,
      leadLengthM: 4,
      leadAreaMm2: 2.5,
      ratedVa: 5,
    },
  },
  {
    name: "rs485",
    summary:
      "An RS-485 line in numbers: reflections, load, idle and far-end level, poll cycle; and what is wrong with it.",
    request: rs485RequestSchema,
    response: rs485ResponseSchema,
    example: {
      baud: 9600,
      devices: [
        {
          id: "inverter",
          role: "client",
          distanceM: 0,
          terminator: true,
          bias: { upOhm: 680, downOhm: 680 },
          poll: [{ registers: 10 }],
        },
        { id: "meter", role: "server", distanceM: 12, terminator: true, address: 1 },
      ],
    },
  },
  {
    name: "can",
    summary: "A CAN bus in numbers: propagation margin, longest line, load of its frames.",
    request: canRequestSchema,
    response: canResponseSchema,
    example: { bitrate: 500_000, lengthM: 5, terminators: 2, frames: [{ id: 0x6c0, bytes: 8, perSecond: 1 }] },
  },
  {
    name: "radio",
    summary: "A sub-GHz radio pair: path loss, level, sensitivity, margin, air time of a frame.",
    request: radioRequestSchema,
    response: radioResponseSchema,
    example: {
      frequencyMhz: 868,
      txDbm: 14,
      distanceM: 60,
      exponent: 3,
      wallsDb: [6],
      spreadingFactor: 9,
      bandwidthKhz: 125,
      payloadBytes: 20,
    },
  },
  {
    name: "export-limit",
    summary:
      "An export limit in the time domain: largest export, time above, fallback, delay budget, largest gain " +
      "that does not hunt, safe set-point.",
    request: exportLimitRequestSchema,
    response: exportLimitResponseSchema,
    example: {
      system: "single-phase",
      limit: { powerW: 5000 },
      durationS: 30,
      inverters: [{ id: "roof", ratedW: 10_000, availableW: 9500, phases: ["L1"] }],
      meter: { samplePeriodMs: 200, delayMs: 300 },
      controller: { kind: "integral", gainPerS: 0.5, setPointW: 4900, deadBandW: 50, periodMs: 500 },
    },
  },
  {
    name: "diversion",
    summary: "Where the surplus goes over a day, a week or a year, surplus orders side by side.",
    request: diversionRequestSchema,
    response: diversionResponseSchema,
    example: { days: 1, stepMin: 15, fields: [{ kwp: 5 }], heater: { ratedW: 3000 }, orders: [["heater"]] },
  },
  {
    name: "schedule",
    summary: "Who does what when: steps with needs, waits, windows and walking, with a bound that no schedule beats.",
    request: scheduleRequestSchema,
    response: scheduleResponseSchema,
    example: {
      technicians: 1,
      places: [{ id: "house" }, { id: "barn" }],
      walkMin: { "barn|house": 3 },
      steps: [
        { id: "isolate", place: "house", activeMin: 10 },
        { id: "clamp", place: "barn", activeMin: 10, needs: ["isolate"] },
      ],
    },
  },
  {
    name: "ethernet",
    summary: "What a lead is, from the colours in both plugs.",
    request: ethernetRequestSchema,
    response: ethernetResponseSchema,
    example: { endA: T568B, endB: T568B },
  },
  {
    name: "online",
    summary: "Where the chain from a device to its owner breaks: causes, what to look at next, or how long to wait.",
    request: onlineRequestSchema,
    response: onlineResponseSchema,
    example: {
      way: "wifi",
      bandsGhz: [2.4],
      lamps: [{ id: "orange-twice", rung: "joined", state: "bad" }],
      changed: "router",
      observed: [
        { check: "lamp", outcome: "orange-twice" },
        { check: "phone-sees-network", outcome: "yes" },
        { check: "address", outcome: "169.254.7.20" },
      ],
    },
  },
  {
    name: "visit",
    summary: "The run sheet of a visit: its steps in their order, what is wrong with it, and what to bring.",
    request: visitRequestSchema,
    response: visitResponseSchema,
    example: {
      document: { format: "gormit-job", version: 3, job: { name: "House" }, site: SITE },
      visit: "first-installation",
    },
  },
];
