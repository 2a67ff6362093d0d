import jsQR from "jsqr";
import { PNG } from "pngjs";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import type { Page } from "puppeteer-core";
import type { Bench, BenchFault } from "@/core/bench/benchSchema";
import { jobFromPattern } from "../fixtures/shipped";
import { Desk, choose, openPart, partShows, PHONE, press, reload, shows } from "./desk";

const PASSPHRASE = "Ferry0l1 timetable";

describe("Online, in the hand", () => {
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
  const phoneAt = async (job: string, part = "break", person = "Kim"): Promise<Page> => {
    const page = await desk.tab(`/jobs/${job}/online?part=${part}`, PHONE);
    await page.evaluate((name) => localStorage.setItem("gormit-person", JSON.stringify(name)), person);
    await reload(page);
    return page;
  };
  const planted = async (name: string, faults: readonly BenchFault[]) => {
    const job = await desk.imported(jobFromPattern("three-phase-storage", { name }));
    const bench = await send<Bench>("POST", `/jobs/${job}/bench`, { fitting: "planned", timeFactor: 600 });
    await send("PATCH", `/jobs/${job}/bench/${bench.id}`, { faults });
    return { job, end: () => send("DELETE", `/jobs/${job}/bench/${bench.id}`) };
  };

  it("leads from a counted lamp to the passphrase, in four taps", async () => {
    const job = await desk.imported(jobFromPattern("three-phase-storage", { name: "Counted" }));
    const page = await phoneAt(job);
    await partShows(page, "Devices that must be seen", "nothing proved yet");
    await page.select('[aria-label="Look at next"] select', "lamp");
    await (await page.waitForSelector("::-p-text(Net: orange, blinks in groups, 3 times)"))!.click();
    await partShows(page, "Possible causes", "The passphrase in the device is wrong");
    await partShows(page, "Devices that must be seen", "proved: powered and awake");
    await shows(page, "Saved");
    await reload(page);
    await partShows(page, "Seen", "The network refuses it");
  });

  it.each([
    ["login-page", "The network wants a log-in on a page"],
    ["names-fail", "Names are not resolved"],
    ["service-blocked", "A firewall keeps it from getting out"],
  ] as const)("finds what was planted on the bench by trying it: %s", async (kind, title) => {
    const { job, end } = await planted(`Planted ${kind}`, [{ kind }]);
    const page = await phoneAt(job);
    await press(page, "Try the bench");
    await partShows(page, "Let Gormit try", "Tried at");
    await partShows(page, "Possible causes", title);
    await partShows(page, "Seen", "by Gormit");
    await end();
  });

  it("goes through a visit after a change of router, from not online to seen by the owner", async () => {
    const job = await desk.imported(jobFromPattern("split-phase-backup", { name: "New router" }));
    const page = await phoneAt(job);
    await choose(page, "What changed lately", "router");
    const see = async (check: string, outcome: string) => {
      await page.select('[aria-label="Look at next"] select', check);
      await press(page, outcome);
      await partShows(page, "Seen", outcome);
    };
    await see("phone-sees-network", "The phone sees the network at the device");
    await see("phone-joins", "The phone does not join with the same passphrase");
    await partShows(page, "Possible causes", "The passphrase in the device is wrong");
    await press(page, "Tried it");
    await partShows(page, "Possible causes", "tried at");
    await openPart(page, "Reach a device");
    await partShows(page, "Reach Hybrid inverter", "Push the stick in");
    await openPart(page, "Find the break");
    await press(page, "The owner sees its data");
    await shows(page, "The owner saw its data at");
    await shows(page, "Saved");
    const log = await send<{ entries: { kind: string; text?: string }[] }>("GET", `/jobs/${job}/visit`);
    const notes = log.entries.flatMap(({ text }) => text ?? []);
    expect(notes.some((text) => text.includes("tried: The passphrase in the device is wrong"))).toBe(true);
    expect(notes.some((text) => text.includes("its owner sees it"))).toBe(true);
  });

  it("counts the keys for a passphrase, draws a code that a camera reads, and keeps it nowhere by itself", async () => {
    const job = await desk.demoJob("fennel-court", "By its keys");
    const page = await phoneAt(job, "set-up");
    await page.type("::-p-aria(Network name)", "Barn; upper");
    await page.type("::-p-aria(Passphrase)", PASSPHRASE);
    await press(page, "Show it, spelled");
    await partShows(page, "Passphrase helper", "presses");
    await partShows(page, "Passphrase, spelled", "not O o");
    const code = await page.waitForSelector('svg[aria-label="Code to join Barn; upper"]');
    await code!.scrollIntoView();
    const picture = PNG.sync.read(Buffer.from(await code!.screenshot()));
    const read = jsQR(new Uint8ClampedArray(picture.data), picture.width, picture.height);
    expect(read?.data).toBe(`WIFI:T:WPA;S:Barn\\; upper;P:${PASSPHRASE};;`);
    await press(page, "Keep until hand over");
    await shows(page, "Kept encrypted on the server");
    await reload(page);
    await (await page.waitForSelector("button ::-p-text(Fetch the one kept)"))!.click();
    await press(page, "Show it, spelled");
    await partShows(page, "Passphrase, spelled", "capital Foxtrot");
    const kept = [
      JSON.stringify(await send("GET", `/jobs/${job}`)),
      JSON.stringify(await send("GET", `/jobs/${job}/export`)),
      JSON.stringify(await send("GET", `/jobs/${job}/visit`)),
      await page.evaluate(() => JSON.stringify(localStorage)),
      await inBrowserStores(page),
      page.url(),
    ];
    for (const text of kept) expect(text).not.toContain(PASSPHRASE);
    await press(page, "Forget it");
    await shows(page, "It lives in this page alone");
  });
});

/** All that the page's databases and caches hold, as text. */
async function inBrowserStores(page: Page): Promise<string> {
  return page.evaluate(async () => {
    const found: string[] = [];
    for (const { name } of await indexedDB.databases()) {
      const database = await new Promise<IDBDatabase>((done) => {
        const open = indexedDB.open(name!);
        open.onsuccess = () => done(open.result);
      });
      for (const store of database.objectStoreNames) {
        const rows = await new Promise<unknown[]>((done) => {
          const all = database.transaction(store).objectStore(store).getAll();
          all.onsuccess = () => done(all.result as unknown[]);
        });
        found.push(JSON.stringify(rows));
      }
      database.close();
    }
    for (const name of await caches.keys()) {
      const cache = await caches.open(name);
      for (const request of await cache.keys()) {
        const type = (await cache.match(request))?.headers.get("content-type") ?? "";
        if (type.includes("json")) found.push(await (await cache.match(request))!.text());
      }
    }
    return found.join("\n");
  });
}
