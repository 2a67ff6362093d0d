import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { Bench } from "@/core/bench/benchSchema";
import { readableLines } from "@/core/live/readableLines";
import { resolve } from "@/core/plan/resolve";
import type { JobDocument } from "@/core/job/jobDocument";
import { jobFromPattern } from "../fixtures/shipped";
import { Desk, openPart, partShows, press, reload, shows } from "./desk";

describe("Bench and live readings", () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await Desk.open();
  });
  afterAll(async () => {
    expect(desk.faults).toEqual([]);
    await desk.close();
  });

  const send = async <T>(method: string, path: string, body?: object): Promise<T> => {
    const response = await fetch(`${desk.app}/api/v1${path}`, {
      method,
      headers: { "content-type": "application/json" },
      ...(body ? { body: JSON.stringify(body) } : {}),
    });
    expect(response.ok, `${method} ${path}: ${response.status}`).toBe(true);
    return (response.status === 204 ? undefined : await response.json()) as T;
  };
  /** A job, its bench, and its meter connected, without the interface. */
  const connected = async (plan: JobDocument, request: object) => {
    const job = await desk.imported(plan);
    const bench = await send<Bench>("POST", `/jobs/${job}/bench`, request);
    const line = bench.lines.find(({ units }) => units.some(({ meter }) => meter))!;
    const way = { kind: line.protocol, host: line.host, port: line.port };
    await send("POST", `/jobs/${job}/live`, { link: line.link, way });
    return { job, bench, line };
  };

  it("is started from a job, connected with one press, and what is switched on it is read", async () => {
    const plan = jobFromPattern("three-phase-storage", { name: "On the bench" });
    const job = await desk.imported(plan);
    const page = await desk.tab(`/jobs/${job}/bench`);
    await press(page, "Start the bench");
    await shows(page, "The bench runs");
    const slider = await page.waitForSelector("::-p-aria(Power of House)");
    await slider!.focus();
    await page.keyboard.press("End");
    await page.keyboard.press("Tab");
    await page.waitForFunction(
      () => !document.querySelector('[aria-label="What is on"]')!.textContent!.includes("Houseoff"),
      { polling: 50 },
    );
    const live = await desk.tab(`/jobs/${job}/wire`);
    await openPart(live, "Live");
    const line = readableLines(resolve(plan)).find(({ units }) => units.some(({ meter }) => meter))!;
    const [meter] = line.units.filter((unit) => unit.meter);
    const part = await live.waitForSelector(`[aria-label="Live: ${line.name}"]`);
    await (await part!.waitForSelector("::-p-text(Connect to the bench, Modbus TCP)"))!.click();
    await partShows(live, `Live: ${meter!.name}`, "importing");
    await send(
      "DELETE",
      `/jobs/${job}/bench/${(await send<{ running: { bench: Bench } }>("GET", `/jobs/${job}/bench`)).running.bench.id}`,
    );
    await partShows(live, `Live: ${line.name}`, "not connected");
    // What it said last stays, and says how old it is.
    await partShows(live, `Live: ${meter!.name}`, "s ago");
    await page.bringToFront();
    await shows(page, "Start the bench");
  });

  it("proves a hidden fault by itself: it switches, takes the readings, and the verdict names the CT", async () => {
    const plan = jobFromPattern("three-phase-storage", { name: "Guided" });
    plan.tests.steps = [];
    const meter = plan.site.meters.find(({ inputs }) => inputs.length === 3)!;
    const fault = { kind: "reversed", meter: meter.id, input: 2 };
    const { job, bench } = await connected(plan, { fitting: { faults: [fault] }, seed: 7 });
    const page = await desk.tab(`/jobs/${job}/prove`);
    await partShows(page, "Live readings", "1 of 1 meter answers");
    await press(page, "Guided proof");
    await partShows(page, "Live readings", "The verdict stands");
    await partShows(page, "Verdict", "A2 is the wrong way round");
    await partShows(page, "Verdict", "Some readings are simulated");
    await send("DELETE", `/jobs/${job}/bench/${bench.id}`);
  });

  it("records the export live for a step test, judges it and keeps it as proof", async () => {
    const plan = jobFromPattern("three-phase-storage", { name: "Recorded" });
    plan.limit.powerW = 3000;
    // A file of before had columns of these names, in kW; what is read live is in watts all the same.
    plan.limit.columns = { time: "seconds", power: "export", isExportPositive: true, unit: "kW" };
    const { job, bench } = await connected(plan, { fitting: "planned", noise: false });
    const house = plan.site.nodes.find(({ kind }) => kind === "load")!.id;
    const sun = plan.site.nodes.find(({ kind }) => kind === "hybrid-inverter" || kind === "pv-inverter")!.id;
    const on = (houseW: number) =>
      send("PATCH", `/jobs/${job}/bench/${bench.id}`, {
        state: {
          devices: [
            { node: sun, powerW: -5000 },
            { node: house, powerW: houseW },
          ],
        },
      });
    await on(4000);
    const page = await desk.tab(`/jobs/${job}/limit?part=proof`);
    await press(page, "Record live");
    await partShows(page, "New recording", "1.00 kW exporting");
    await on(1500);
    // What the house does not take any more goes out for a moment, and is then held back below the limit.
    // Where it comes to rest depends on when the inverter asked: a device asks in the bench's time, on any machine.
    await page.waitForFunction(() => Number(/, (\d\.\d+) kW exporting/.exec(document.body.innerText)?.[1]) > 2.5, {
      polling: 50,
    });
    await press(page, "Stop and judge");
    await press(page, "Keep as proof");
    const kept = async () => (await send<{ document: JobDocument }>("GET", `/jobs/${job}`)).document.limit.proofs;
    await shows(page, "Saved");
    await expect.poll(async () => (await kept()).length, { timeout: 20_000 }).toBe(1);
    // The bench is no site: what was recorded there is kept, and proves nothing.
    await shows(page, "Recorded on the bench: it proves nothing of the site.");
    expect((await kept())[0]!.onBench).toBe(true);
    expect((await kept())[0]!.maxExportW).toBeGreaterThan(2500);
    expect((await kept())[0]!.maxExportW).toBeLessThan(5000);
    await send("DELETE", `/jobs/${job}/bench/${bench.id}`);
  });

  it("times the fail-safe from the meter's last answer to the fallback, and keeps what it took", async () => {
    const plan = jobFromPattern("three-phase-storage", { name: "Meter lost" });
    plan.limit.powerW = 3000;
    const { job, bench, line } = await connected(plan, { fitting: "planned", noise: false, timeFactor: 10 });
    const sun = plan.site.nodes.find(({ kind }) => kind === "hybrid-inverter" || kind === "pv-inverter")!.id;
    const other = bench.lines.find((own) => own.link !== line.link && own.units.some(({ device }) => device === sun));
    if (other) {
      const way = { kind: other.protocol, host: other.host, port: other.port };
      await send("POST", `/jobs/${job}/live`, { link: other.link, way });
    }
    const state = { devices: [{ node: sun, powerW: -5000 }] };
    await send("PATCH", `/jobs/${job}/bench/${bench.id}`, { state });
    const page = await desk.tab(`/jobs/${job}/limit?part=proof`);
    await press(page, "Time it live");
    await partShows(page, "Without the meter", "still answers, the inverters make 2.");
    const meter = line.units.find((unit) => unit.meter)!.device;
    await send("PATCH", `/jobs/${job}/bench/${bench.id}`, { faults: [{ kind: "device-dead", device: meter }] });
    await partShows(page, "Without the meter", "is silent for");
    await partShows(page, "Without the meter", "It falls back in time");
    await press(page, "Keep the test");
    await shows(page, "Saved");
    const kept = async () =>
      (await send<{ document: JobDocument }>("GET", `/jobs/${job}`)).document.limit.fallbackTests[0];
    await expect.poll(kept, { timeout: 20_000 }).toMatchObject({ verdict: "falls-back", onBench: true });
    expect((await kept())!.beforeW).toBeGreaterThan(2000);
    await send("DELETE", `/jobs/${job}/bench/${bench.id}`);
  });

  it("reads back what a device says of itself, and finds the one setting that differs from the plan", async () => {
    const plan = jobFromPattern("three-phase-storage", { name: "Read back" });
    const { job, bench, line } = await connected(plan, { fitting: "planned" });
    const saved = await send<{ revision: number; document: JobDocument }>("GET", `/jobs/${job}`);
    const changed = structuredClone(saved.document);
    const input = changed.site.meters.find(({ inputs }) => inputs.length === 3)!.inputs[0]!;
    const other = [100, 120, 200].find((primaryA) => primaryA !== input.primaryA)!;
    (input as { primaryA: number }).primaryA = other;
    await send("PUT", `/jobs/${job}`, { revision: saved.revision, document: changed });
    const page = await desk.tab(`/jobs/${job}/wire`);
    await openPart(page, "Live");
    const { name } = line.units.find(({ meter }) => meter)!;
    const card = await page.waitForSelector(`[aria-label="Live: ${name}"]`);
    await partShows(page, `Live: ${name}`, "answers");
    await (await card!.waitForSelector("::-p-text(Read back)"))!.click();
    await partShows(page, `Live: ${name}`, "One setting differs from the plan.");
    await shows(page, "1 to fix");
    // Who works is said first; then it is armed, written, read back and logged.
    await page.evaluate(() => localStorage.setItem("gormit-person", JSON.stringify("Kim")));
    await reload(page);
    await openPart(page, "Live");
    await partShows(page, `Live: ${name}`, "answers");
    await (await page.waitForSelector(`[aria-label="Live: ${name}"] ::-p-text(Read back)`))!.click();
    await (await page.waitForSelector("::-p-text(as planned)"))!.click();
    await (await page.waitForSelector("::-p-text(Write it now)"))!.click();
    await partShows(page, `Live: ${name}`, "Set as planned and typed.");
    const log = () => send<{ entries: { kind: string; text?: string }[] }>("GET", `/jobs/${job}/visit`);
    await expect.poll(async () => JSON.stringify((await log()).entries), { timeout: 20_000 }).toContain("Written into");
    await send("DELETE", `/jobs/${job}/bench/${bench.id}`);
  });
});
