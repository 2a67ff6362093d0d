import { radioOfLink } from "@/core/links/air/airPath";
import { cellularMbAMonth } from "@/core/links/air/cellular";
import { radio } from "@/core/links/air/radio";
import { wifiBudget } from "@/core/links/air/wifi";
import { busOfLink } from "@/core/links/bus/busOfLink";
import { can } from "@/core/links/bus/can";
import { canOfLink } from "@/core/links/bus/canOfLink";
import { rs485 } from "@/core/links/bus/rs485";
import { wifiDistanceM } from "@/core/links/check/wifiFindings";
import { cellularSettings, wifiSettings } from "@/core/plan/linkSchema";
import type { PlanLink, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { threeDigits } from "@/core/units";

/** A frame with 20 registers. */
const FRAME_BYTES = 45;

/** A name and its value with the unit. */
export type LinkNumber = readonly [name: string, value: string];

/**
 * The numbers of a link as a multimeter, a phone or a bill shows them; none where nothing can be measured. Values are
 * written with their units and three digits that count, with a decimal point: an RS-485 line of 12 m at 9600 baud
 * begins with "Length", "12 m of 1200 m at 9600 baud".
 */
export function linkNumbers(plan: ResolvedPlan, link: PlanLink): readonly LinkNumber[] {
  switch (link.kind) {
    case "rs485":
      return rs485Numbers(link);
    case "can":
      return canNumbers(link);
    case "wifi":
      return wifiNumbers(plan, link);
    case "radio":
      return radioNumbers(link);
    case "cellular":
      return [
        ["A month", `${three(cellularMbAMonth(cellularSettings(link)))} MB of ${cellularSettings(link).planMb} MB`],
      ];
    case "ethernet":
    case "power-line":
    case "bank":
    case "dry-contact":
    case "usb":
      return [];
  }
}

function rs485Numbers(link: PlanLink): readonly LinkNumber[] {
  const bus = busOfLink(link);
  if (!bus) return [];
  const figures = rs485(bus);
  return [
    ["Length", `${three(figures.lengthM)} m of ${three(figures.maxLengthM)} m at ${bus.baud} baud`],
    [
      "A to B, everything off",
      `${offText(figures.resistanceOffBiasOhm, figures.resistanceOffOhm)} at the client, ` +
        `${offText(figures.resistanceOffFarBiasOhm, figures.resistanceOffFarOhm)} at the far end: terminators, ` +
        "inputs, bias and cable",
    ],
    ["A to B, idle", `${three(figures.idleMv)} mV at the client, ${three(figures.idleFarMv)} mV at the far end`],
    ["At the far end", `${three(figures.farEndMv)} mV`],
    ["Longest stub", `${three(figures.stubLimitM)} m`],
    [
      "Terminators",
      figures.terminationMatters
        ? "needed at both ends: the round trip is longer than a tenth of a bit"
        : "make no difference at this length; both methods pass",
    ],
  ];
}

/** With a dead bias rail on ground, and with it open: what is read lies between. */
function offText(groundedOhm: number, openOhm: number): string {
  const [from, to] = [three(groundedOhm), three(openOhm)];
  return from === to ? `${to} Ω` : `${from} to ${to} Ω`;
}

function canNumbers(link: PlanLink): readonly LinkNumber[] {
  const bus = canOfLink(link);
  if (!bus) return [];
  const figures = can(bus);
  const { resistanceOffOhm } = figures;
  return [
    ["Length", `${three(bus.lengthM)} m of ${three(figures.maxLengthM)} m at ${bus.bitrate / 1000} kbit/s`],
    ["CANH to CANL, everything off", resistanceOffOhm === null ? "open" : `${three(resistanceOffOhm)} Ω`],
    ["Margin before the sample", `${three(figures.marginNs)} ns`],
    ["Bus load at worst", `${three(figures.busLoadPct)} %`],
  ];
}

function wifiNumbers(plan: ResolvedPlan, link: PlanLink): readonly LinkNumber[] {
  const { bandGhz, walls, seenDbm } = wifiSettings(link);
  const distanceM = wifiDistanceM(plan, link);
  const budget = wifiBudget(bandGhz, distanceM, walls);
  return [
    ["At the spot, computed", `${three(budget.rxDbm)} dBm: ${budget.judgement}, over ${three(distanceM)} m`],
    ...(seenDbm === undefined ? [] : [["At the spot, seen", `${seenDbm} dBm`] as const]),
  ];
}

function radioNumbers(link: PlanLink): readonly LinkNumber[] {
  if (!link.ends.some(({ device }) => device?.kit.kind === "radio-pair")) return [];
  const settings = radioOfLink(link);
  const figures = radio({ ...settings, payloadBytes: FRAME_BYTES });
  return [
    ["Arrives", `${three(figures.rxDbm)} dBm over ${three(settings.distanceM)} m`],
    ["Needed", `${three(figures.sensitivityDbm)} dBm`],
    ["To spare", `${three(figures.linkMarginDb)} dB`],
    ["A frame of 20 registers", `${three(figures.airTimeMs)} ms in the air`],
  ];
}

function three(value: number): string {
  return String(threeDigits(value));
}
