import { describe, expect, it } from "vitest";
import { SimulatedSite } from "@/bench/process/simulatedSite";
import type { BenchRequest } from "@/core/bench/benchSchema";
import { REGISTER_WORDS, type Register } from "@/core/kits/registerSchema";
import { decodeRegister, encodeRegister } from "@/core/kits/registerValue";
import { benchSpec } from "../../tests/fixtures/benchSpec";
import { jobFromPattern } from "../../tests/fixtures/shipped";

const document = jobFromPattern("three-phase-storage");
const house = document.site.nodes.find(({ kind }) => kind === "load")!.id;

/** A site whose clock is turned by hand. */
function simulated(request: Partial<BenchRequest> = {}) {
  let nowMs = 0;
  const site = new SimulatedSite(benchSpec(document, request), () => nowMs);
  const device = site.devices.find(({ unit }) => unit.meter)!;
  const register = (of: Register["of"], input?: number) =>
    device.unit.registers.find((own) => own.of === of && own.input === input)!;
  const read = (own: Register) =>
    decodeRegister(site.words(device, own.table, own.address, REGISTER_WORDS[own.type])!, own);
  return {
    site,
    device,
    register,
    read,
    later: (ms: number) => {
      nowMs += ms;
      site.step();
    },
    on: (powerW: number) =>
      site.change({ state: { devices: [{ node: house, powerW, reactiveVar: 0 }], runs: "held" } }),
  };
}

describe("a simulated site", () => {
  it("counts energy by the way it goes, as fast as time goes on it", () => {
    const { on, later, read, register } = simulated({ timeFactor: 60 });
    on(3000);
    later(60_000);
    const isCountedNegative = read(register("power")) < 0;
    const counted = isCountedNegative ? "energy-negative" : "energy";
    expect(read(register(counted))).toBeCloseTo(3000, -1);
    on(-1500);
    later(120_000);
    expect(read(register(counted))).toBeCloseTo(3000, -1);
    expect(read(register(isCountedNegative ? "energy" : "energy-negative"))).toBeCloseTo(3000, -1);
  });

  it("shows what was some seconds ago where a lag is planted", () => {
    const { site, device, on, later, read, register } = simulated();
    on(900);
    later(20_000);
    site.change({ faults: [{ kind: "lag", device: device.unit.device, seconds: 10 }] });
    on(2100);
    later(5_000);
    expect(Math.abs(read(register("power", 1)))).toBeCloseTo(300, 0);
    later(6_000);
    expect(Math.abs(read(register("power", 1)))).toBeCloseTo(700, 0);
  });

  it("takes a written primary and direction for its own, and nothing that is only to be read", () => {
    const { site, device, on, read, register } = simulated();
    on(3000);
    const before = read(register("power", 2));
    const ratio = register("ratio", 2);
    const primaryA = read(ratio);
    expect(site.write(device, ratio.address, [2 * primaryA])).toBe(true);
    expect(read(register("power", 2))).toBeCloseTo(2 * before, 0);
    expect(site.write(device, register("direction", 2).address, [1])).toBe(true);
    expect(read(register("power", 2))).toBeCloseTo(-2 * before, 0);
    expect(read(register("power", 1))).toBeCloseTo(before, 0);
    expect(site.write(device, register("serial").address, [1, 2])).toBe(false);
    expect(site.write(device, 9_000, [1])).toBe(false);
  });

  it("changes nothing where the faults cannot be there together", () => {
    const { site, on, read, register } = simulated();
    on(3000);
    const before = read(register("power", 1));
    const run = document.site.nodes.find(({ phases }) => phases?.length === 1 && phases[0] === "L1")!.id;
    const at = { meter: document.site.meters[0]!.id, input: 1 };
    const isTaken = site.change({
      timeFactor: 60,
      faults: [
        { kind: "wrong-phase", ...at, conductor: "L2" },
        { kind: "wrong-run", ...at, run },
      ],
    });
    expect(isTaken).toBe(false);
    expect([site.timeFactor, site.faults.length, read(register("power", 1))]).toEqual([1, 0, before]);
  });

  it("holds the export of a plan's limit, falls back without the meter, and takes a written limit", () => {
    const limited = structuredClone(document);
    limited.limit.powerW = 2000;
    let nowMs = 0;
    const site = new SimulatedSite(benchSpec(limited), () => nowMs);
    const later = (seconds: number) => {
      for (let at = 0; at < 4 * seconds; at++) {
        nowMs += 250;
        site.step();
      }
    };
    const inverter = site.devices.find(({ unit }) => unit.registers.some(({ of }) => of === "limit"))!;
    const madeW = () =>
      site.value(
        inverter,
        inverter.unit.registers.find(({ of, input }) => of === "power" && input === undefined)!,
      );
    const sun = { node: inverter.unit.device, powerW: -5000, reactiveVar: 0 };
    site.change({ state: { devices: [sun, { node: house, powerW: 600, reactiveVar: 0 }], runs: "held" } });
    later(60);
    expect(madeW()).toBeGreaterThan(2300);
    expect(madeW()).toBeLessThanOrEqual(2600);
    expect(site.state().devices).toContainEqual(sun);
    const meter = site.devices.find(({ unit }) => unit.meter)!;
    site.change({ faults: [{ kind: "device-dead", device: meter.unit.device }] });
    later(120);
    expect(madeW()).toBeCloseTo(0, 0);
    site.change({ faults: [] });
    const limit = inverter.unit.registers.find(({ of }) => of === "limit")!;
    site.write(inverter, limit.address, encodeRegister(1000, limit));
    later(60);
    expect(madeW()).toBeLessThanOrEqual(1600);
    expect(madeW()).toBeGreaterThan(1300);
  });

  it("hears a device at the address that it is set to, and nowhere else", () => {
    const { site, device } = simulated();
    const { link } = device.line;
    const { unit } = device.unit;
    expect(site.deviceAt(link, unit)).toBe(device);
    expect(site.deviceAt("another", unit)).toBeUndefined();
    site.change({ faults: [{ kind: "wrong-address", device: device.unit.device, address: 77 }] });
    expect([site.deviceAt(link, unit), site.deviceAt(link, 77)]).toEqual([undefined, device]);
  });

  it("counts only what it was asked, and gives the same noise for the same seed", () => {
    const noisy = (seed: number) => {
      const { device, on, read, register, later } = simulated({ noise: true, seed });
      on(3000);
      later(1000);
      expect(device.asked).toBe(0);
      const shown = read(register("power", 1));
      expect(device.asked).toBe(1);
      return shown;
    };
    expect(noisy(5)).toBe(noisy(5));
    expect(noisy(5)).not.toBe(noisy(6));
  });
});
