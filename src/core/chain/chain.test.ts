import { describe, expect, it } from "vitest";
import { changedByVisit } from "@/core/chain/changedByVisit";
import { chainFindings, chainState } from "@/core/chain/chainFindings";
import { chainOf, worstFirst } from "@/core/chain/chainOf";
import { lampPatterns, patternWords } from "@/core/chain/lampPatterns";
import { devicesWithoutKit, seenDevices } from "@/core/chain/seenDevices";
import { seenWords } from "@/core/chain/seenWords";
import type { OnlineRecord } from "@/core/online/onlineRecords";
import { RUNG_IDS } from "@/core/online/rungs";
import { plainText } from "@/core/sentence";
import { resolve } from "@/core/plan/resolve";
import { jobFromPattern, shippedKits, shippedPatterns } from "../../../tests/fixtures/shipped";

const AT = "2026-05-04T10:00:00.000Z";
const now = Date.parse(AT);
const planOf = (pattern: string) => resolve(jobFromPattern(pattern));
const told = (pattern: string) =>
  seenDevices(planOf(pattern)).map(({ device, way, through }) => [device.kit.id, way, through?.kit.id]);
const seen = (observed: Omit<OnlineRecord["observed"][number], "at">[], id: string): OnlineRecord => ({
  id,
  observed: observed.map((own) => ({ ...own, at: AT })),
});

describe("the devices that an owner must see", () => {
  it("are seen by their own link, through their module, their hub, their gateway or their logger", () => {
    expect(told("split-phase-backup")).toEqual([["hybrid-split-9k", "wifi", undefined]]);
    expect(told("cellular-shared-pair")).toEqual([
      ["hybrid-single-5k", "cellular", "dongle-cellular"],
      ["dongle-cellular", "cellular", undefined],
    ]);
    expect(told("power-line-modules")[0]).toEqual(["pv-roof-module-unit", "power-line", "gateway-din-metering"]);
    expect(told("diverter-and-hub")).toContainEqual(["heater-diverter-3k", "hub", "charger-hub-7k"]);
    expect(told("cascaded-logger")[0]).toEqual(["pv-three-12k-meter", "logger", "logger-rs485"]);
  });

  it("are told without a way where the plan has none", () => {
    expect(told("two-ct-add-on")).toEqual([["pv-single-3k6", undefined, undefined]]);
    const [finding] = chainFindings(planOf("two-ct-add-on"), []);
    expect(finding).toMatchObject({ code: "no-way-online", severity: "note", stage: "online" });
  });

  it("are named where their kit was not said, since their way depends on it", () => {
    const document = jobFromPattern("split-phase-backup");
    const nodes = document.site.nodes.map(({ kit, ...node }) =>
      node.kind === "hybrid-inverter" ? node : { ...node, kit },
    );
    const plan = resolve({ ...document, site: { ...document.site, nodes } });
    expect(devicesWithoutKit(plan).map(({ name }) => name)).toEqual(["Hybrid inverter"]);
    expect(devicesWithoutKit(planOf("split-phase-backup"))).toEqual([]);
  });

  it("have a chain in every pattern, and nothing is wrong while nothing was seen", () => {
    for (const { id } of shippedPatterns()) {
      const plan = planOf(id);
      const chains = seenDevices(plan).map((device) => chainOf(device, plan, [], now));
      for (const { proved, missing, answer, way } of chains) {
        expect([proved, missing]).toEqual([null, "powered"]);
        expect(answer === undefined).toBe(way === undefined);
      }
      expect(chainFindings(plan, []).filter(({ severity }) => severity !== "note")).toEqual([]);
    }
  });
});

describe("the chain of a device", () => {
  const plan = planOf("split-phase-backup");
  const [device] = seenDevices(plan);
  const id = device!.device.id;
  const of = (record: OnlineRecord, at = now) => chainOf(device!, plan, [record], at);

  it("says what was seen in words, with the value and its unit where one was typed", () => {
    const chain = of(seen([], id));
    const words = (check: "signal" | "clock" | "address" | "display" | "phone-joins", outcome: string | number) =>
      seenWords({ check, outcome }, chain);
    expect(words("signal", -67.5)).toBe("the signal is good: -67.5 dBm");
    expect(words("clock", 148.2)).toBe("its clock is some minutes off: 148.2 s");
    expect(words("address", "169.254.7.20")).toBe("it has no address from the router: 169.254.7.20");
    expect(words("display", "E 14")).toBe("its display shows “E 14”");
    expect(words("phone-joins", "no")).toBe("the phone does not join with the same passphrase");
    expect(seenWords({ check: "lamp", outcome: "of another kit" }, chain)).toContain("does not name it any more");
  });

  it("is proved as far as something shows it, and names what is missing", () => {
    const record = seen([{ check: "phone-sees-network", outcome: "yes" }], id);
    expect(of(record)).toMatchObject({ proved: "network-seen", missing: "joined" });
    expect(of({ ...record, ownerSeesAt: AT })).toMatchObject({ proved: "owner-sees", missing: undefined });
  });

  it("lets noted minutes go on with the time", () => {
    const record = seen(
      [
        { check: "minutes-since-power", outcome: 1 },
        { check: "address", outcome: "192.168.7.30" },
      ],
      id,
    );
    const early = of(record).answer!.causes.find((cause) => cause.id === "wait-longer")!.probability;
    const late = of(record, now + 3_600_000).answer!.causes.find((cause) => cause.id === "wait-longer");
    expect(early).toBeGreaterThan(2 * (late?.probability ?? 0));
  });

  it("begins with what changed by what the visit is for, until somebody says otherwise", () => {
    expect(changedByVisit({ kind: "service", reason: "router-changed" })).toBe("router");
    expect(changedByVisit({ kind: "exchange" })).toBe("device");
    expect(changedByVisit({ kind: "service", reason: "not-online" })).toBeUndefined();
    expect(chainOf(device!, plan, [], now, "router").request!.changed).toBe("router");
    const said = { id, observed: [], changed: "nothing" as const };
    expect(chainOf(device!, plan, [said], now, "router").request!.changed).toBe("nothing");
  });

  it("leaves out what the kit does not know any more", () => {
    expect(of(seen([{ check: "lamp", outcome: "Violet steady" }], id)).request!.observed).toEqual([]);
  });

  it("is a finding once one cause stands out, and none after the owner saw it", () => {
    const record = seen(
      [
        { check: "outside", outcome: "login-page" },
        { check: "phone-internet", outcome: "no" },
      ],
      id,
    );
    const [finding] = chainFindings(plan, [record]);
    expect(finding).toMatchObject({ code: "chain-broken", severity: "fix" });
    expect(plainText(finding!.detail)).toContain("log-in page");
    expect(chainFindings(plan, [{ ...record, ownerSeesAt: AT }])).toEqual([]);
    expect(chainState(plan, [])).toBe("0 of 1 seen");
    expect(chainState(plan, [{ ...record, ownerSeesAt: AT }])).toBe("1 of 1 seen");
  });

  it("stands before those that are further", () => {
    const far = of(seen([{ check: "address", outcome: "192.168.7.30" }], id));
    const near = of(seen([], id));
    expect(worstFirst([far, near])).toEqual([near, far]);
    expect(far.mayTakeMin).toBeLessThan(near.mayTakeMin);
    expect(of({ id, observed: [], ownerSeesAt: AT }).mayTakeMin).toBe(0);
  });
});

describe("the ways online of the kits that ship", () => {
  const kits = shippedKits().filter(({ online }) => online !== undefined);

  it("are those of at least ten devices, by every way to reach one", () => {
    expect(kits.length).toBeGreaterThanOrEqual(10);
    expect(new Set(kits.flatMap(({ online }) => online!.setUp.map(({ by }) => by))).size).toBe(6);
  });

  it("have lamps that tell of a rung, each pattern once, in words", () => {
    const withLamps = kits.filter((kit) => lampPatterns(kit).length > 0);
    expect(withLamps.length).toBeGreaterThanOrEqual(8);
    for (const kit of withLamps) {
      const patterns = lampPatterns(kit);
      expect(new Set(patterns.map(({ id }) => id)).size).toBe(patterns.length);
      for (const { lamp, rung } of patterns) {
        expect(RUNG_IDS).toContain(rung);
        expect(patternWords(lamp)).toMatch(/^[a-z]+, /);
      }
    }
  });
});
