import type { Kit } from "@/core/kits/kitSchema";

/** One value of a kit, with where it came from and what Gormit does with it. */
export interface KitValue {
  /** As in the file: "metering.inputs.1.arrow". */
  readonly path: string;
  readonly value: string;
  readonly source: string;
  /** Empty where nothing uses it yet. */
  readonly usedFor: string;
}

/** What each part of a kit is used for; the longest path that a value begins with counts. Lists stand as *. */
const USES: Readonly<Record<string, string>> = {
  "ratings.powerW": "Plan: rating of a new device, and whether the plan asks more of it",
  "ratings.phases": "Plan: phases of a new device, and whether it can be wired to them",
  "ratings.unitsMax": "Plan: how much several of them may be rated",
  "metering.classPct": "Plan: error of the reading",
  "metering.taps": "Plan: voltage taps of a new meter",
  "metering.builtInUpToA": "Plan: measured inside or by a CT",
  "metering.inputs.*.n": "Plan: which inputs there are",
  "metering.inputs.*.label": "Labels: name of the input at the meter",
  "metering.inputs.*.arrow": "Plan, Place: which way the printed arrow must point",
  "metering.inputs.*.positive": "Plan, Place, Prove: what a positive reading means",
  "metering.inputs.*.secondary": "Plan: which family of CT fits",
  "metering.inputs.*.ratio": "Plan: the exact ratio to type",
  "metering.inputs.*.invertSetting": "Plan: whether a setting can turn the sign",
  "metering.inputs.*.longestLeadM": "Plan: longest lead",
  "metering.inputs.*.inputVa": "Plan: burden of the CT",
  "metering.transmitter.wakeUpA": "Plan: whether it sleeps at night",
  "metering.transmitter": "Plan: reach and age of a reading",
  "clamp.class": "Plan: error of the reading",
  "clamp.primariesA": "Plan: primaries to choose from",
  "clamp.secondary": "Plan: which inputs it fits",
  "clamp.windowMm": "Plan: whether the conductor goes through",
  "clamp.ratedVa": "Plan: burden and longest lead",
  "clamp.leadM": "Plan, Bring: lead that comes on it",
  "ports.*.id": "Wire: which ports a link joins",
  "ports.*.label": "Wire: name of the port",
  "ports.*.role": "Wire: who asks and who answers",
  "ports.*.kind": "Wire: which links are proposed",
  "ports.*.terminals": "Wire: which core goes into which terminal",
  "ports.*.conductors.wiresMax": "Wire: whether two wires fit a terminal",
  "ports.*.bias": "Wire: idle voltage of the bus",
  "ports.*.unitLoad": "Wire: load of the bus",
  "ports.*.receiver": "Wire: idle voltage that is needed",
  "ports.*.shieldHere": "Wire: where the shield is bonded",
  "serial.baud": "Wire: speed of the bus, and what is to be set",
  "serial.dataBits": "Wire: what is to be set",
  "serial.parity": "Wire: what is to be set",
  "serial.stopBits": "Wire: what is to be set",
  "serial.address": "Wire: address that is proposed",
  "serial.turnaroundMs": "Wire: time of a poll cycle",
  registers: "Wire: time of a poll cycle, what is read live",
  "serial.registers": "Wire: time of a poll cycle",
  "can.bitrate": "Wire: speed of the CAN, and whether both ends agree",
  "can.frames": "Wire: load of the CAN, and frames missing from a log",
  "ports.*.conductors.torqueNm": "Bring: torque screwdriver",
  "ports.*.terminator": "Bring: terminators to fit",
  "ports.*.connector": "Wire, Bring: ferrules, leads that go on, aerials",
  "network.wired": "Plan: whether it can join the customer's network",
  "network.bandsGhz": "Plan: whether it can join the customer's network",
  "network.cellular": "Bring: SIM card",
  "network.accessPoint": "Bring: phone for set-up",
  "network.bluetooth": "Bring: phone for set-up",
  "environment.shelter": "Plan: whether it may hang at its place",
  "environment.weightKg": "Bring: help above 25 kg",
  "environment.drillMm": "Bring: drill",
  kind: "Plan: where it can be chosen",
};

const HEAD_FIELDS = new Set(["format", "version", "id", "name", "summary", "source", "sources"]);

/**
 * Every value of a kit in the order of its file, each with its source and use.
 *
 * For example: `kitValues(kit).find(({ path }) => path === "metering.classPct")` gives { value: "1", usedFor: "Plan:
 * error of the reading", … }
 */
export function kitValues(kit: Kit): readonly KitValue[] {
  return Object.entries(kit)
    .filter(([key, value]) => !HEAD_FIELDS.has(key) && value !== undefined)
    .flatMap(([key, value]) => leaves(value, [key]))
    .map(({ path, value }) => ({ path: path.join("."), value, source: sourceOf(kit, path), usedFor: useOf(path) }));
}

interface Leaf {
  readonly path: readonly string[];
  readonly value: string;
}

function leaves(value: unknown, path: readonly string[]): readonly Leaf[] {
  if (Array.isArray(value)) {
    const isPlain = value.every((item) => typeof item !== "object");
    if (isPlain) return value.length === 0 ? [] : [{ path, value: value.join(", ") }];
    return value.flatMap((item, at) => leaves(item, [...path, String(at + 1)]));
  }
  if (typeof value === "object" && value !== null) {
    return Object.entries(value)
      .filter(([, field]) => field !== undefined)
      .flatMap(([key, field]) => leaves(field, [...path, key]));
  }
  return [{ path, value: typeof value === "boolean" ? (value ? "yes" : "no") : String(value) }];
}

/** The source of the nearest part that has one of its own. */
function sourceOf(kit: Kit, path: readonly string[]): string {
  for (let length = path.length; length > 0; length--) {
    const own = kit.sources[path.slice(0, length).join(".")];
    if (own) return own;
  }
  return kit.source;
}

function useOf(path: readonly string[]): string {
  const general = path.map((part) => (/^\d+$/.test(part) ? "*" : part));
  for (let length = general.length; length > 0; length--) {
    const use = USES[general.slice(0, length).join(".")];
    if (use) return use;
  }
  return "";
}
