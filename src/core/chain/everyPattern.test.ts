import { describe, expect, it } from "vitest";
import { seenDevices } from "@/core/chain/seenDevices";
import { resolve } from "@/core/plan/resolve";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

/** Who must be seen, by which way, and through what: kit by kit, as the links that patterns ask for have it. */
const SEEN: Readonly<Record<string, readonly string[]>> = {
  "battery-of-another-maker": ["hybrid-single-5k-lv cable by dongle-wifi-lan", "dongle-wifi-lan cable"],
  "bluetooth-set-up": ["pv-single-6k-short-range cellular by dongle-cellular", "dongle-cellular cellular"],
  "cascade-with-backup-box": [
    "hybrid-three-10k cable by dongle-wifi-lan",
    "pv-three-10k hub by hybrid-three-10k",
    "dongle-wifi-lan cable",
  ],
  "cascaded-logger": [
    "pv-three-12k-meter logger by logger-rs485",
    "pv-three-12k-meter logger by logger-rs485",
    "logger-rs485 cable",
  ],
  "cellular-shared-pair": ["hybrid-single-5k cellular by dongle-cellular", "dongle-cellular cellular"],
  "display-and-keys": ["pv-single-5k-keys cable"],
  "diverter-and-hub": [
    "pv-single-3k6 none",
    "battery-inverter-3k cable",
    "heater-diverter-3k hub by charger-hub-7k",
    "charger-hub-7k cable",
  ],
  "energy-manager": [
    "pv-three-10k hub by energy-manager-80a",
    "battery-inverter-3k cable",
    "battery-inverter-3k cable",
    "charger-three-11k cable",
    "charger-three-11k cable",
    "energy-manager-80a cable",
  ],
  "export-controller": [
    "pv-three-10k logger by export-controller-8",
    "pv-three-10k logger by export-controller-8",
    "pv-three-10k logger by export-controller-8",
    "export-controller-8 cable",
  ],
  "hybrid-high-voltage": ["hybrid-single-5k cable"],
  "local-monitor": [
    "pv-three-10k cable by dongle-wifi-lan",
    "pv-three-10k none",
    "monitor-local-usb cable",
    "dongle-wifi-lan cable",
  ],
  "meter-on-second-pair": ["pv-single-3k6 cable by dongle-wifi-lan", "dongle-wifi-lan cable"],
  "metering-gateway": [
    "pv-roof-module-unit power-line by gateway-din-metering",
    "pv-roof-module-unit power-line by gateway-din-metering",
    "battery-inverter-3k cable",
    "battery-inverter-3k cable",
    "gateway-din-metering cable",
  ],
  "outbuilding-radio-pair": ["pv-single-3k6 none", "battery-inverter-3k none"],
  "power-line-modules": ["pv-roof-module-unit power-line by gateway-din-metering", "gateway-din-metering cable"],
  "router-changed": ["pv-single-3k6 cable by dongle-wifi-lan", "dongle-wifi-lan cable"],
  "split-phase-backup": ["hybrid-split-9k wifi"],
  "three-phase-storage": ["hybrid-three-10k wifi"],
  "two-ct-add-on": ["pv-single-3k6 none"],
};

describe("who is seen by which way, pattern by pattern", () => {
  it.each(shippedPatterns().map(({ id }) => id))("%s", (pattern) => {
    const told = seenDevices(resolve(jobFromPattern(pattern))).map(({ device, way, through }) =>
      [device.kit.id, way ?? "none", ...(through ? ["by", through.kit.id] : [])].join(" "),
    );
    expect(told).toEqual(SEEN[pattern]);
  });
});
