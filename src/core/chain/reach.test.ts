import { describe, expect, it } from "vitest";
import { beforeVisit, outboundSheet } from "@/core/chain/beforeVisit";
import { reachSteps } from "@/core/chain/reachSteps";
import { networkSchema } from "@/core/plan/linkSchema";
import { resolve } from "@/core/plan/resolve";
import { jobFromPattern, shippedKits, shippedPatterns } from "../../../tests/fixtures/shipped";

const kitOf = (id: string) => shippedKits().find((kit) => kit.id === id)!;
const network = networkSchema.parse({});
const stepsOf = (id: string, by: string, more: Partial<Parameters<typeof reachSteps>[2]> = {}) => {
  const kit = kitOf(id);
  const setUp = kit.online!.setUp.find((own) => own.by === by)!;
  return reachSteps(kit, setUp, { serial: undefined, network, way: "wifi", ...more });
};
const textOf = (steps: ReturnType<typeof reachSteps>) => steps.map(({ text }) => text).join("\n");

describe("how a device is reached", () => {
  it("names its access point by its serial number, and by the rule where nobody read that", () => {
    expect(textOf(stepsOf("dongle-wifi-lan", "access-point", { serial: "GKF1234567" }))).toContain("“kit-234567”");
    expect(textOf(stepsOf("dongle-wifi-lan", "access-point"))).toContain("the last 6 characters of its serial number");
  });

  it("removes the old connection first, starts and ends the access point, and switches mobile data off", () => {
    const ids = stepsOf("hybrid-single-5k-lv", "access-point").map(({ id }) => id);
    expect(ids.indexOf("old")).toBe(0);
    expect(ids.indexOf("start")).toBeLessThan(ids.indexOf("join"));
    expect(ids.indexOf("flight")).toBeLessThan(ids.indexOf("join"));
    expect(ids.slice(-2)).toEqual(["stop", "flight-off"]);
    const text = textOf(stepsOf("hybrid-single-5k-lv", "access-point"));
    expect(text).toContain("address that its display shows");
    expect(text).toContain("it does not end by itself");
  });

  it("tells what its list of networks leaves out of this network, and only that", () => {
    const lacks = (more: object) =>
      stepsOf("dongle-wifi-lan", "access-point", { network: networkSchema.parse(more) }).find(
        ({ id }) => id === "lacks",
      );
    expect(lacks({ hiddenName: true })!.text).toContain("type its name by hand");
    expect(lacks({ security: "wpa3" })!.text).toContain("WPA3 alone");
    expect(lacks({ bandsGhz: [5] })!.text).toContain("5 GHz");
    expect(lacks({})).toBeUndefined();
  });

  it("begins again, after an interruption, where the device has to be opened again", () => {
    for (const kit of shippedKits().filter(({ online }) => online))
      for (const setUp of kit.online!.setUp) {
        const steps = reachSteps(kit, setUp, { serial: undefined, network, way: setUp.sets[0]! });
        expect(steps.length, `${kit.id}, ${setUp.by}`).toBeGreaterThan(0);
        expect(new Set(steps.map(({ id }) => id)).size).toBe(steps.length);
        if (setUp.start !== undefined) expect(steps.find(({ id }) => id === "start")!.isRestart).toBe(true);
      }
  });

  it("asks for the provider's data by cellular, with the PIN as the device takes it", () => {
    expect(textOf(stepsOf("pv-single-6k-short-range", "bluetooth", { way: "cellular" }))).toContain("its PIN");
    expect(textOf(stepsOf("dongle-cellular", "module-swap", { way: "cellular" }))).toContain("no PIN");
  });
});

describe("before the visit", () => {
  const items = (pattern: string) => beforeVisit(resolve(jobFromPattern(pattern))).map(({ text }) => text);

  it("asks for the owner with the passphrase where a device joins by Wi-Fi", () => {
    expect(items("three-phase-storage").some((text) => text.includes("name and passphrase"))).toBe(true);
    expect(items("hybrid-high-voltage").some((text) => text.includes("name and passphrase"))).toBe(false);
  });

  it("has the SIM with its size, the firmware in the phone, and what to ask before updating", () => {
    expect(items("bluetooth-set-up").join()).toContain("micro (3FF) SIM");
    expect(items("three-phase-storage").join()).toContain("Load the firmware of");
    expect(items("metering-gateway").join()).toContain("ask who reads it before updating");
  });

  it("is nothing to do where nobody is seen", () => {
    expect(items("two-ct-add-on")).toEqual([]);
  });

  it("lists every way out once, with the name that it goes to", () => {
    const rows = outboundSheet(resolve(jobFromPattern("hybrid-high-voltage")));
    expect(rows.map(({ port, protocol, to }) => `${to} ${port}/${protocol}`)).toEqual([
      "telemetry.kits.example 47020/tcp",
      "telemetry.kits.example 47001/udp",
    ]);
    for (const { id } of shippedPatterns()) {
      const all = outboundSheet(resolve(jobFromPattern(id))).map((row) => JSON.stringify(row));
      expect(new Set(all).size).toBe(all.length);
    }
  });
});
