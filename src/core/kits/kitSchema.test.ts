import { describe, expect, it } from "vitest";
import { kitSchema } from "@/core/kits/kitSchema";
import { shippedKits } from "../../../tests/fixtures/shipped";

type Loose = Record<string, unknown>;

const meter = structuredClone(shippedKits().find((kit) => kit.id === "meter-three-5a")) as unknown as Loose;
const hybrid = structuredClone(shippedKits().find((kit) => kit.id === "hybrid-single-5k")) as unknown as Loose;
const radio = structuredClone(shippedKits().find((kit) => kit.id === "radio-ct-self-powered")) as unknown as Loose;
const clamp = structuredClone(shippedKits().find((kit) => kit.id === "ct-solid-5a-28mm")) as unknown as Loose;

/** A copy with the value at a path replaced; undefined takes it out. */
function changed(kit: Loose, path: string, value: unknown): Loose {
  const copy = structuredClone(kit);
  const keys = path.split(".");
  let at: Loose = copy;
  for (const key of keys.slice(0, -1)) at = at[key] as Loose;
  at[keys.at(-1)!] = value;
  return copy;
}

describe("a kit", () => {
  it.each([
    ["of another format", meter, "format", "other-kit", "format"],
    ["of a version to come", meter, "version", 2, "version"],
    ["with capitals in its id", meter, "id", "Meter", "id"],
    ["without a summary", meter, "summary", " ", "summary"],
    ["without a source", meter, "source", "", "source"],
    ["of a kind that there is not", meter, "kind", "clock", "kind"],
    ["with a serial pattern that is none", meter, "serialPattern", "[", "serialPattern"],
    ["that is a meter without inputs", meter, "metering", undefined, "metering"],
    ["with an input twice", meter, "metering.inputs.1.n", 1, "metering.inputs.1.n"],
    ["whose arrow points nowhere", meter, "metering.inputs.0.arrow", "up", "metering.inputs.0.arrow"],
    [
      "whose ratio range is upside down",
      meter,
      "metering.inputs.0.ratio",
      { kind: "ratio", min: 10, max: 1, step: 1 },
      "metering.inputs.0.ratio.max",
    ],
    [
      "whose ratio has no step",
      meter,
      "metering.inputs.0.ratio",
      { kind: "primary", min: 1, max: 10, step: 0 },
      "metering.inputs.0.ratio.step",
    ],
    [
      "whose list of ratios is empty",
      meter,
      "metering.inputs.0.ratio",
      { kind: "list", values: [] },
      "metering.inputs.0.ratio.values",
    ],
    [
      "whose secondary has no unit of electricity",
      meter,
      "metering.inputs.0.secondary.unit",
      "kg",
      "metering.inputs.0.secondary.unit",
    ],
    ["with an address beyond the bus", meter, "serial.address", 248, "serial.address"],
    ["with nine data bits", meter, "serial.dataBits", 9, "serial.dataBits"],
    ["with a terminal of an unknown role", meter, "ports.2.terminals.0.role", "plus", "ports.2.terminals.0.role"],
    [
      "whose terminals take thicker at least than at most",
      meter,
      "ports.2.conductors",
      { minMm2: 4, maxMm2: 1 },
      "ports.2.conductors.maxMm2",
    ],
    [
      "that switches on itself before itself",
      hybrid,
      "powerUp.0",
      { first: "dc", then: "dc", why: "x" },
      "powerUp.0.then",
    ],
    ["whose export limit is upside down", hybrid, "exportLimit.max", -1, "exportLimit.max"],
    [
      "that fails safe to more than everything",
      hybrid,
      "exportLimit.failSafe.fallbackPct",
      120,
      "exportLimit.failSafe.fallbackPct",
    ],
    [
      "that answers a command in no time",
      hybrid,
      "exportLimit.response",
      { deadTimeMs: 0, lagMs: 0, rampPctPerS: 50 },
      "exportLimit.response.lagMs",
    ],
    ["with a frame of nine bytes", hybrid, "can.frames.0.bytes", 9, "can.frames.0.bytes"],
    ["with a band that no country has", hybrid, "network.bandsGhz", [3], "network.bandsGhz.0"],
    ["with a lamp that dances", hybrid, "lamps.0.pattern", "dance", "lamps.0.pattern"],
    ["that boots in no time", hybrid, "timers.bootS", 0, "timers.bootS"],
    ["that hangs in the sea", hybrid, "environment.shelter", "sea", "environment.shelter"],
    ["with a word too many", hybrid, "environment.colour", "red", "environment"],
    [
      "self-powered without the current that wakes it",
      radio,
      "metering.transmitter.wakeUpA",
      undefined,
      "metering.transmitter.wakeUpA",
    ],
    ["that is a CT of no class", clamp, "clamp.class", "5", "clamp.class"],
    ["that is a CT without a primary", clamp, "clamp.primariesA", [], "clamp.primariesA"],
    ["that is a CT and says nothing of itself", clamp, "clamp", undefined, "clamp"],
  ] as const)("%s is refused at its path", (_name, kit, path, value, where) => {
    expect(kitSchema.safeParse(kit).success).toBe(true);
    const paths =
      kitSchema.safeParse(changed(kit, path, value)).error?.issues.map((issue) => issue.path.join(".")) ?? [];
    expect(paths).toContain(where);
  });
});
