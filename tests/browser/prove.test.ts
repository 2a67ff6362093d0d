import { afterAll, beforeAll, describe, expect, it } from "vitest";
import {
  Desk,
  addStep,
  choose,
  goTo,
  partShows,
  PHONE,
  press,
  reload,
  savedAt,
  shows,
  showsNot,
  type,
  weighed,
} from "./desk";

describe("Prove", () => {
  let desk: Desk;
  beforeAll(async () => {
    desk = await Desk.open();
  });
  afterAll(async () => {
    expect(desk.faults).toEqual([]);
    await desk.close();
  });

  it("shows the point of the demo job at once: the verdict, the cure, and the fitting drawn", async () => {
    const page = await desk.tab(`/jobs/${await desk.demoJob("tollgate-cottage", "Point")}/prove`);
    await partShows(page, "Verdict", "Faults found");
    await shows(page, "Turn A2 round, or swap its two leads.");
    await page.waitForSelector("::-p-aria(As it looks to be fitted: A2 is the wrong way round)");
  });

  it("forms its verdict as readings are typed, and says what is unreadable or unexplained", async () => {
    const page = await desk.tab(
      `/jobs/${await desk.newJob({ name: "Typed", system: "single-phase", solarKw: 3.6 })}/prove`,
    );
    await shows(page, "Nothing read yet");
    await shows(page, "Do this next");
    await press(page, "Add this step");
    await page.waitForSelector("::-p-aria(Step 1, measured at A1)");
    await type(page, "Step 1, measured at A1", "garbled");
    await shows(page, "type watts, or kilowatts with kW");
    await type(page, "Step 1, measured at A1", "-1.76 kW");
    await shows(page, "exporting");
    // The verdict has its say above the steps before a hand finds its button.
    await weighed(page);
    await press(page, "Repeat step 1");
    await type(page, "Step 2, measured at A1", "99 kW");
    // One reading that nothing explains is doubted, and it is said which.
    await partShows(page, "Verdict", "A1 in step 2 shows 99.00 kW");
    await shows(page, "outside the band");
  });

  it("doubts a turned CT that one reading shows, and finds it once that is read again", async () => {
    const id = await desk.newJob({ name: "Two steps", system: "single-phase", solarKw: 3.6 });
    const page = await desk.tab(`/jobs/${id}/prove`);
    for (const step of [1, 2]) {
      await addStep(page);
      await page.waitForSelector(`[data-step="${step}"]`);
    }
    await page.locator('[data-step="2"] ::-p-aria(Devices)').click();
    await page.select('[data-step="2"] [aria-label="Add a known device"]', "test-l1");
    await shows(page, "2.00 kW ± 100 W");
    await type(page, "Step 1, measured at A1", "-430");
    await type(page, "Step 2, measured at A1", "-2,41 kW");
    // The second reading alone shows it: read again before anything is turned.
    await partShows(page, "Verdict", "One odd reading explains the sheet as well");
    await press(page, "Read it again");
    await type(page, "Step 3, measured at A1", "-2420");
    await partShows(page, "Verdict", "Faults found");
    await shows(page, "A1 is the wrong way round.");
    await reload(page);
    await partShows(page, "Verdict", "Faults found");
  });

  it("tries itself without a site: fills from the CTs as fitted, says so, and undoes", async () => {
    const page = await desk.tab(`/jobs/${await desk.demoJob("fennel-court", "Simulated")}/prove`);
    await partShows(page, "Verdict", "As planned");
    await press(page, "Practice readings");
    await shows(page, "They try the page; they prove nothing.");
    await press(page, "Undo");
    await showsNot(page, "They try the page");
  });

  it("weighs up to three faults in a worker and stays at hand meanwhile", async () => {
    const page = await desk.tab(`/jobs/${await desk.demoJob("brindle-dairy", "Three faults")}/prove`);
    await partShows(page, "Verdict", "Not certain yet");
    await press(page, "What the verdict rests on");
    await choose(page, "Faults looked for at once", "3");
    await press(page, "Stop");
    await shows(page, "Stopped.");
    await choose(page, "Faults looked for at once", "1");
    await showsNot(page, "Stopped.");
    await weighed(page);
  });

  it("says whether displays add up and what it looks like when they do not", async () => {
    const page = await desk.tab(`/jobs/${await desk.newJob({ name: "Displays", system: "single-phase" })}/prove`);
    await weighed(page);
    await press(page, "Do the displays add up?");
    for (const [role, power] of [
      ["grid", "1.24 kW"],
      ["solar", "2 kW"],
      ["house", "0.76 kW"],
    ] as const) {
      await choose(page, "Add a display", role);
      await type(page, `${role} shown`, power);
    }
    await shows(page, "It looks like the grid value has the wrong sign.");
    await type(page, "grid shown", "-1.24 kW");
    await shows(page, "Balances: sources and loads add up.");
  });

  it("works on a phone, a step a card, within the width", async () => {
    const page = await desk.tab(`/jobs/${await desk.demoJob("tollgate-cottage", "Phone proof")}/prove`, PHONE);
    await partShows(page, "Verdict", "Faults found");
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(PHONE.width);
    await type(page, "Step 1, measured at A2", "12");
    await shows(page, "inside the band");
  });

  it("takes a size with its direction, a sign by one key, and asks where a number is 1000 times off", async () => {
    const id = await desk.newJob({ name: "As typed", system: "single-phase", solarKw: 4 });
    const page = await desk.tab(`/jobs/${id}/prove`, PHONE);
    await addStep(page);
    await type(page, "Step 1, measured at A1", "2,47");
    await press(page, "2.47 kW");
    await page.waitForFunction(
      () => document.querySelector<HTMLInputElement>('[aria-label="Step 1, measured at A1"]')?.value === "2470",
    );
    await press(page, "Other sign of Step 1, measured at A1");
    await press(page, "Devices");
    const device = await page.waitForSelector('[aria-label="Add a known device"]');
    const solar = await device!.$eval("option:nth-of-type(2)", (option) => (option as HTMLOptionElement).value);
    await device!.select(solar);
    const name = await page.$eval(
      '[aria-label$=", direction"]',
      (own) => own.getAttribute("aria-label")!.split(",")[0]!,
    );
    await type(page, `${name}, power`, "3.2 kW");
    await page.waitForFunction(() => document.querySelector("[data-revision]")?.textContent === "Saved");
    const kind = await stored(desk, id, solar);
    expect(kind.reading).toBe(-2470);
    expect(Math.abs(kind.powerW)).toBe(3200);
    expect(Math.sign(kind.powerW)).toBe(kind.isSolar ? -1 : 1);
  });

  it("marks what was read before a CT was turned, and says first what to read again", async () => {
    const id = await desk.demoJob("fennel-court", "Turned after");
    const page = await desk.tab(`/jobs/${id}/prove`);
    await partShows(page, "Verdict", "As planned");
    await type(page, "Step 1, measured at A1", "-209");
    await savedAt(page, 2);
    await goTo(page, `${desk.app}/jobs/${id}/place`);
    await page.locator('[data-socket="A1"]').click();
    await press(page, "Turn round");
    await savedAt(page, 3);
    await page.locator("header ::-p-text(Read again, since A1 changed)").click();
    await shows(page, "from before A1 was changed: read it again");
    await press(page, "It still holds");
    await savedAt(page, 4);
    await shows(page, "inside the band");
  });
});

/** What was kept of the first step: its first reading, and the power of a device. */
async function stored(desk: Desk, id: string, node: string) {
  const { document } = (await (await fetch(`${desk.app}/api/v1/jobs/${id}`)).json()) as {
    document: {
      site: { nodes: { id: string; kind: string }[] };
      tests: { steps: { devices: { node: string; powerW: number }[]; readings: { powerW: number }[] }[] };
    };
  };
  const [step] = document.tests.steps;
  return {
    reading: step!.readings[0]!.powerW,
    powerW: step!.devices.find((device) => device.node === node)!.powerW,
    isSolar: document.site.nodes.find((own) => own.id === node)!.kind === "pv-inverter",
  };
}
