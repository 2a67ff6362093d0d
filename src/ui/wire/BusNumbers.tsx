"use client";

import { radioOfLink } from "@/core/links/air/airPath";
import { busOfLink } from "@/core/links/bus/busOfLink";
import { can } from "@/core/links/bus/can";
import { canOfLink } from "@/core/links/bus/canOfLink";
import { cellularMbAMonth } from "@/core/links/air/cellular";
import { wifiDistanceM } from "@/core/links/check/wifiFindings";
import { cellularSettings, wifiSettings } from "@/core/plan/linkSchema";
import { radio } from "@/core/links/air/radio";
import { rs485 } from "@/core/links/bus/rs485";
import { wifiBudget } from "@/core/links/air/wifi";
import { threeDigits } from "@/core/units";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import type { PlanLink, ResolvedPlan } from "@/core/plan/resolvedPlan";
import type { WireDesk } from "@/ui/wire/useWire";

/** A frame with 20 registers. */
const FRAME_BYTES = 45;

/** The numbers of a link as they can be measured. */
export function BusNumbers({ wire, link }: { wire: WireDesk; link: PlanLink }) {
  const say = useSay();
  const rows = numbersOf(wire.plan, link);
  if (rows.length === 0) return null;
  return (
    <dl className="mt-3 grid gap-x-4 text-sm sm:grid-cols-[auto_1fr_auto_1fr]">
      {rows.map(([name, value]) => (
        <div key={name} className="contents">
          <dt className="font-semibold">{name}</dt>
          <dd>{say(value)}</dd>
        </div>
      ))}
    </dl>
  );
}

function numbersOf(plan: ResolvedPlan, link: PlanLink): readonly (readonly [string, string])[] {
  const three = (value: number) => String(threeDigits(value));
  switch (link.kind) {
    case "rs485": {
      const bus = busOfLink(link);
      if (!bus) return [];
      const figures = rs485(bus);
      return [
        ["Length", `${three(figures.lengthM)} m of ${three(figures.maxLengthM)} m at ${bus.baud} Bd`],
        [
          "A to B, everything off",
          `${three(figures.resistanceOffOhm)} Ω: terminators of 120 Ω and inputs side by side`,
        ],
        ["A to B, idle", `${three(figures.idleMv)} mV`],
        ["At the far end", `${three(figures.farEndMv)} mV`],
        ["Longest stub", `${three(figures.stubLimitM)} m`],
        [
          "Terminators",
          figures.terminationMatters
            ? "needed at both ends: the round trip is longer than a tenth of a bit"
            : "make no difference at this length; both schools pass",
        ],
      ];
    }
    case "can": {
      const bus = canOfLink(link);
      if (!bus) return [];
      const figures = can(bus);
      return [
        ["Length", `${three(bus.lengthM)} m of ${three(figures.maxLengthM)} m at ${bus.bitrate / 1000} kbit/s`],
        [
          "CANH to CANL, everything off",
          figures.resistanceOffOhm === null ? "open" : `${three(figures.resistanceOffOhm)} Ω`,
        ],
        ["Margin before the sample", `${three(figures.marginNs)} ns`],
        ["Bus load at worst", `${three(figures.busLoadPct)} %`],
      ];
    }
    case "wifi": {
      const { bandGhz, walls, seenDbm } = wifiSettings(link);
      const distanceM = wifiDistanceM(plan, link);
      const budget = wifiBudget(bandGhz, distanceM, walls);
      return [
        ["At the spot, computed", `${three(budget.rxDbm)} dBm: ${budget.judgement}, over ${three(distanceM)} m`],
        ...(seenDbm === undefined ? [] : [["At the spot, seen", `${seenDbm} dBm`] as const]),
      ];
    }
    case "radio": {
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
    case "cellular":
      return [
        ["A month", `${three(cellularMbAMonth(cellularSettings(link)))} MB of ${cellularSettings(link).planMb} MB`],
      ];
    case "ethernet":
    case "power-line":
    case "dry-contact":
    case "usb":
      return [];
  }
}
