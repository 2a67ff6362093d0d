import { describe, expect, it } from "vitest";
import { changeEquipment } from "@/core/edits/editPlan";
import type { JobDocument } from "@/core/job/jobDocument";
import { batteryFindings } from "@/core/links/check/batteryFindings";
import { linkFindings } from "@/core/links/check/linkFindings";
import { proposeLinks } from "@/core/links/propose/proposeLinks";
import { wiringSchedule } from "@/core/links/wiring/wiringSchedule";
import { resolve } from "@/core/plan/resolve";
import { arrowWords } from "@/core/site/arrowWords";
import { meterChecks } from "@/core/sensing/meterChecks";
import { materials } from "@/core/visit/materials";
import { visitSheet } from "@/core/visit/visitSheet";
import { jobFromPattern, shippedKits, shippedPatterns } from "../../../tests/fixtures/shipped";

const bank = jobFromPattern("battery-of-another-maker");
const found = (job: JobDocument) => batteryFindings(resolve(job)).map(({ code, severity }) => `${code} ${severity}`);
const kitOf = (id: string) => shippedKits().find((kit) => kit.id === id)!;

describe("Batteries on their inverters", () => {
  it.each(shippedPatterns().map(({ id }) => id))(
    "of %s fit by voltage, and every module of a bank is on a line",
    (id) => {
      expect(found(jobFromPattern(id))).toEqual([]);
    },
  );

  it("of a low voltage on an inverter for a high one stop the plan", () => {
    const high = kitOf("hybrid-single-5k");
    const wrong = {
      ...bank,
      kits: bank.kits.map((kit) => (kit.id === "hybrid-single-5k-lv" ? { ...high, id: kit.id } : kit)),
    };
    expect(found(wrong)).toEqual(["battery-voltage stop"]);
  });

  it("that the inverter's menu does not know are to be changed", () => {
    const named = {
      ...bank,
      kits: bank.kits.map((kit) => (kit.storage ? { ...kit, storage: { ...kit.storage, kits: ["other"] } } : kit)),
    };
    expect(found(named)).toEqual(["battery-model fix"]);
  });

  it("are missed where a module is on no line of its bank, or two have one address, or there are too many", () => {
    const cut = { ...bank, links: bank.links.filter(({ kind }) => kind !== "bank") };
    expect(found(cut)).toEqual(["bank-module-loose fix"]);
    const twice = {
      ...bank,
      links: bank.links.map((link) =>
        link.kind === "bank" ? { ...link, members: link.members.map((member) => ({ ...member, address: 1 })) } : link,
      ),
    };
    expect(found(twice)).toEqual(["bank-address-twice fix"]);
    const many = {
      ...bank,
      kits: bank.kits.map((kit) =>
        kit.kind === "battery" ? { ...kit, ratings: { ...kit.ratings, unitsMax: 1 } } : kit,
      ),
    };
    expect(found(many)).toEqual(["bank-too-large fix"]);
  });

  it("are wired with their enable line, counted in the sheet, and their cable is brought", () => {
    const rows = wiringSchedule(resolve(bank)).filter(({ link }) => link.startsWith("bank"));
    expect(rows.map(({ role }) => role)).toEqual(
      expect.arrayContaining(["non-inverting", "inverting", "enable", "enable-return"]),
    );
    const { steps } = visitSheet(bank);
    expect(steps.find(({ id }) => id === "count:bank-1")?.evidence).toMatchObject({ fields: [{ least: 2, most: 2 }] });
    expect(steps.find(({ id }) => id === "configure:module-1")?.content).toContainEqual({
      label: "Own count",
      value: "2",
    });
    expect(materials(bank).some(({ id }) => id === "bank-cable")).toBe(true);
  });

  it("of one module need no line", () => {
    const alone = changeEquipment("module-2", { kit: "dongle-wifi-lan" })(bank);
    expect(proposeLinks(resolve({ ...alone, links: [] })).filter(({ kind }) => kind === "bank")).toEqual([]);
  });
});

describe("Lines of several", () => {
  it("have every cascaded inverter on them, led by the first hybrid where no controller leads", () => {
    const { links } = jobFromPattern("cascade-with-backup-box");
    expect(links.find(({ kind }) => kind === "rs485")?.members.map(({ item }) => item)).toContain("second");
    const led = jobFromPattern("energy-manager");
    expect(led.links.filter(({ kind, members }) => kind === "rs485" && members[0]!.item === "solar")).toHaveLength(1);
  });

  it("have the client in the middle where a battery with one plug shares its pair, in a twin ferrule", () => {
    const shared = jobFromPattern("cellular-shared-pair");
    const line = shared.links.find(({ kind }) => kind === "rs485")!;
    expect(line.members.map(({ item }) => item)).toEqual(["stack", "hybrid", "meter"]);
    expect(line.members.map(({ terminator }) => terminator === true)).toEqual([true, false, true]);
    const twin = wiringSchedule(resolve(shared)).flatMap(({ from, to }) => [from.ferrule, to?.ferrule]);
    expect(twin.some((ferrule) => ferrule?.startsWith("twin"))).toBe(true);
  });

  it("with one terminator where it makes no difference say what a multimeter shows", () => {
    const job = jobFromPattern("two-ct-add-on");
    const one = {
      ...job,
      links: job.links.map((link) => ({
        ...link,
        members: link.members.map((member, at) => ({ ...member, terminator: at === 0 })),
      })),
    };
    const plan = resolve(one);
    const notes = plan.links
      .flatMap((link) => linkFindings(plan, link))
      .filter(({ code }) => code === "terminator-single");
    expect(notes).toHaveLength(1);
    expect(notes[0]!.severity).toBe("note");
  });
});

it("Two halves of a radio pair are brought as one pair, and both have mains", () => {
  const job = jobFromPattern("outbuilding-radio-pair");
  expect(materials(job).find(({ id }) => id === "kit:radio-pair-sub-ghz")?.quantity).toBe(1);
  const wired = visitSheet(job).steps.filter(({ tag, about }) => tag === "wire-power" && about?.startsWith("air"));
  expect(wired).toHaveLength(2);
});

it("Arrows on the run of something that gives are told by the board, elsewhere by grid and loads", () => {
  expect(arrowWords("to-grid", "pv-inverter")).toBe("toward the board");
  expect(arrowWords("to-load", "battery-inverter")).toContain("away from the board");
  expect([arrowWords("to-grid", "board"), arrowWords("to-load")]).toEqual(["toward the grid", "toward the loads"]);
});

it("CTs of one run with different primaries are doubted, circuits of their own are not", () => {
  const job = jobFromPattern("export-controller");
  expect(meterChecks(resolve(job))).toEqual([]);
  const odd = {
    ...job,
    site: {
      ...job.site,
      meters: job.site.meters.map((meter) => ({
        ...meter,
        inputs: meter.inputs.map((input) => (input.n === 3 ? { ...input, primaryA: 2 * input.primaryA } : input)),
      })),
    },
  };
  expect(meterChecks(resolve(odd))).toMatchObject([{ code: "primaries-differ", severity: "note" }]);
});
