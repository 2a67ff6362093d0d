import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { RunningBench } from "@/bench/process/runningBench";
import type { BenchFault } from "@/core/bench/benchSchema";
import { BENCH_WIFI } from "@/core/bench/benchWifi";
import { misreadings } from "@/core/online/passphrase/misreadings";
import { chainOf } from "@/core/chain/chainOf";
import { seenDevices } from "@/core/chain/seenDevices";
import type { OneTry } from "@/core/chain/tried";
import { tryTargets } from "@/core/chain/tryTargets";
import { resolve } from "@/core/plan/resolve";
import { tryNetwork } from "@/reader/tryNetwork";
import { benchSpec } from "../../tests/fixtures/benchSpec";
import { jobFromPattern } from "../../tests/fixtures/shipped";

const document = jobFromPattern("split-phase-backup");
const plan = resolve(document);
const [seen] = seenDevices(plan);
const device = seen!.device.id;
const AT = "2026-05-04T10:00:00.000Z";

describe("what Gormit tries by itself, against the network of a bench", () => {
  let bench: RunningBench;
  beforeAll(async () => {
    bench = await RunningBench.start(benchSpec(document, { timeFactor: 600 }));
  });
  afterAll(() => bench.close());

  const tried = async (faults: readonly BenchFault[]): Promise<readonly OneTry[]> => {
    expect(await bench.change({ faults: [...faults] })).toBe(true);
    const { online } = bench.status();
    const address = online.find((own) => own.device === device)?.address ?? "192.168.7.100";
    return tryNetwork(tryTargets(plan, device, bench.bench().network, address)!, plan);
  };
  const outcomes = (tries: readonly OneTry[]) =>
    Object.fromEntries(tries.flatMap(({ seen: own }) => (own ? [[own.check, own.outcome]] : [])));
  const causeOf = (tries: readonly OneTry[]) => {
    const observed = tries.flatMap(({ seen: own }) => (own ? [{ ...own, at: AT }] : []));
    return chainOf(seen!, plan, [{ id: device, observed }], Date.parse(AT)).answer!;
  };

  it("finds nothing wrong where nothing is", async () => {
    const found = outcomes(await tried([]));
    expect(found).toMatchObject({
      gateway: "answers",
      name: "resolves",
      "service-port": "open",
      outside: "answers",
    });
    expect(Math.abs(Number(found.clock))).toBeLessThanOrEqual(2);
    expect(found.address).toMatch(/^192\.168\.7\./);
  });

  it.each([
    ["login-page", [{ kind: "login-page" }], "login-page"],
    ["dns", [{ kind: "names-fail" }], "dns"],
    ["outbound-blocked", [{ kind: "service-blocked" }], "outbound-blocked"],
    ["line-down", [{ kind: "line-down" }], "line-down"],
    ["clock-wrong", [{ kind: "clock-off", device, seconds: 9e6 }], "clock-wrong"],
  ] as const)("leads to the cause that was planted: %s", async (_, faults, cause) => {
    const { causes, verdict } = causeOf(await tried(faults));
    expect(causes.slice(0, 2).map(({ id }) => id)).toContain(cause);
    expect(verdict).not.toBe("not-explained");
  });

  it("notices a device that is not there, and its coming back", async () => {
    const gone = await tried([{ kind: "no-power", device }]);
    expect(outcomes(gone).address).toBeUndefined();
    expect(gone.find(({ what }) => what.startsWith("Its own page"))!.said).toBe("does not answer");
    expect(outcomes(await tried([])).address).toBeDefined();
  });

  it("shows by its lamps and its address how far a device has come", async () => {
    const status = () => bench.status().online.find((own) => own.device === device)!;
    await bench.change({ faults: [{ kind: "no-address", device }] });
    expect(status().address === null || status().address!.startsWith("169.254.")).toBe(true);
    await bench.change({ faults: [{ kind: "no-power", device }] });
    expect(status().rung).toBeNull();
    await bench.change({ faults: [] });
  });

  it("lets a device join by its set-up page with the passphrase of the label, and by no other", async () => {
    await bench.change({ faults: [{ kind: "passphrase-wrong", device }] });
    const { setUpUrl } = bench.bench().network.devices.find((own) => own.device === device)!;
    const join = async (passphrase: string) => {
      const body = new URLSearchParams({ name: BENCH_WIFI.name, passphrase });
      return (await fetch(setUpUrl, { method: "POST", body })).text();
    };
    const [misread] = misreadings(BENCH_WIFI.passphrase);
    expect(await join(misread!.passphrase)).toContain("The network refuses it.");
    expect(bench.status().faults).toHaveLength(1);
    const joined = await join(BENCH_WIFI.passphrase);
    expect(joined).toContain("It joins.");
    expect(joined).not.toContain(BENCH_WIFI.passphrase);
    expect(bench.status().faults).toEqual([]);
  });

  it("registers a device in the account of the portal", async () => {
    const { url } = bench.bench().portal;
    const state = async () => {
      const { devices } = (await (await fetch(`${url}/account.json`)).json()) as { devices: { state: string }[] };
      return devices[0]!.state;
    };
    await bench.change({ faults: [{ kind: "not-registered", device }] });
    expect(await state()).toBe("unknown-device");
    await fetch(`${url}/account/${device}`, { method: "POST" });
    expect(["online", "offline"]).toContain(await state());
    await bench.change({ faults: [{ kind: "other-account", device }] });
    expect(await state()).toBe("other-account");
    await bench.change({ faults: [] });
  });

  it("asks only what the plan names, and no service inside a private network", async () => {
    const targets = {
      ...tryTargets(plan, device, undefined, undefined)!,
      gateway: [{ host: "192.168.9.1", port: 80 }],
      page: "http://192.168.9.9/",
    };
    const tries = await tryNetwork({ ...targets, serviceName: undefined, outside: undefined }, plan);
    expect(tries.map(({ said }) => said)).toEqual([
      expect.stringContaining("not in this job's plan") as string,
      expect.stringContaining("not in this job's plan") as string,
    ]);
    const { names } = tryTargets(plan, device, bench.bench().network, undefined)!;
    const inside = await tryNetwork(
      { ...targets, names, serviceName: "inside.kits.example", servicePorts: [80] },
      plan,
    );
    expect(inside.find(({ what }) => what.includes("port 80"))!.said).toBe("127.0.0.1 is no service outside");
    expect(tryTargets(plan, "nobody", undefined, undefined)).toBeUndefined();
  });
});
