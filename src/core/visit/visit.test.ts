import { describe, expect, it } from "vitest";
import { resolve } from "@/core/plan/resolve";
import { acceptFinding, sortFindings, withdrawAcceptance } from "@/core/job/openFindings";
import { planFindings } from "@/core/job/planFindings";
import { jobSummary } from "@/core/jobSummary";
import { changeEquipment, changeInput, changeNode, setWay } from "@/core/edits/editPlan";
import { labels } from "@/core/visit/labels";
import { withSlackM } from "@/core/visit/bring/cableParts";
import { groupedMaterials } from "@/core/visit/bring/groupedMaterials";
import type { Material } from "@/core/visit/bring/material";
import { materials } from "@/core/visit/materials";
import { swapLeads } from "@/core/site/fitClamp";
import { directWay, distanceBetween } from "@/core/site/distances";
import type { JobDocument } from "@/core/job/jobDocument";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

const hub = jobFromPattern("diverter-and-hub");
const farm = jobFromPattern("export-controller");
const split = jobFromPattern("split-phase-backup");

function item(document: JobDocument, id: string): Material | undefined {
  return materials(document).find((candidate) => candidate.id === id);
}

describe("labels", () => {
  it("say of a CT what the docblock says, and hold it all in the code", () => {
    const [clamp, leads] = labels(jobFromPattern("two-ct-add-on"), "2026-11-25");
    expect(clamp).toMatchObject({
      id: "clamp:A1",
      title: "A1",
      lines: [
        "CT round L1 of Consumer unit",
        "Arrow toward the loads",
        "80 A : 0.333 V",
        "Add-on meter, input 1",
        "2026-11-25",
      ],
    });
    expect(clamp!.text.split("\n")).toEqual(["A1", ...clamp!.lines, "Add-on meter with two CTs"]);
    expect(leads).toMatchObject({
      kind: "leads",
      lines: expect.arrayContaining(["To Add-on meter, input 1 (P1)", "Leads straight"]) as string[],
    });
  });

  it("tell what is fitted where that differs from the plan", () => {
    const swapped = { ...hub, site: swapLeads(hub.site, "ct-hub-1") };
    expect(labels(swapped, "d").find((label) => label.id === "leads:A1")?.lines).toContain(
      "Leads swapped at the meter",
    );
  });

  it("name each measured breaker once with everything on it, and every invert setting in use", () => {
    const breakers = labels(farm, "d").filter((label) => label.kind === "breaker");
    expect(breakers).toMatchObject([
      {
        title: "Main switchboard",
        lines: expect.arrayContaining(["Measured by A1 on L1, A2 on L2, A3 on L3"]) as string[],
      },
    ]);
    expect(
      labels(changeInput("hub", 2, { invert: true })(hub), "d")
        .filter((label) => label.kind === "invert")
        .map((label) => label.title),
    ).toEqual(["A2 inverted"]);
  });

  it("leave out CTs that are none", () => {
    expect(labels(jobFromPattern("energy-manager"), "d").map((label) => label.kind)).toEqual(["breaker"]);
  });
});

describe("materials", () => {
  it("count CTs by kind and ratio, and say which input each is for", () => {
    expect(item(farm, "ct:ct-split-5a-80mm:250:5A")).toMatchObject({
      quantity: 3,
      why: "A1, A2, A3",
      text: expect.stringContaining("250 A : 5 A, class 0.5") as string,
    });
  });

  it("give cable with slack by the plan's distances", () => {
    expect(withSlackM(12)).toBe(15.2);
    expect(item(hub, "power:3:10")).toMatchObject({ quantity: withSlackM(14), why: "Car charger 14 m" });
    const threePhase = jobFromPattern("three-phase-storage");
    expect(item(threePhase, "data-cable")).toMatchObject({
      quantity: withSlackM(20),
      unit: "m",
      why: "to Grid meter 20 m",
    });
    expect(item(setWay("plant", "wall", { walkMin: 1, cableM: 40 })(threePhase), "data-cable")?.quantity).toBe(
      withSlackM(42),
    );
  });

  it("leave out what is there already and what a device brings along", () => {
    expect(item(hub, "kit:pv-single-3k6")).toBeUndefined();
    expect(item(changeNode("solar", { existing: undefined })(hub), "kit:pv-single-3k6")?.quantity).toBe(1);
    expect(item(hub, "kit:charger-hub-7k")?.quantity).toBe(1);
  });

  it("call for help with what is heavy, and for a shorting link with current-output CTs", () => {
    expect(
      materials(split)
        .filter((line) => line.group === "help")
        .map((line) => line.why),
    ).toEqual(["Hybrid inverter: 52 kg", "Generator: 90 kg", "Battery module: 44 kg"]);
    expect(item(farm, "tool:shorting")).toBeDefined();
    expect(item(split, "tool:shorting")).toBeUndefined();
    expect(item(changeEquipment("module-1", { existing: true })(split), "lift:battery-modules-lv")).toBeUndefined();
  });

  it("bring the SIM and the aerial of a cellular module", () => {
    const cellular = jobFromPattern("cellular-shared-pair");
    expect(item(cellular, "sim")?.quantity).toBe(1);
    expect(item(cellular, "aerial:cellular")).toBeDefined();
    expect(item(jobFromPattern("outbuilding-radio-pair"), "aerial:sub-GHz radio")?.quantity).toBe(2);
  });

  it.each(shippedPatterns().map(({ id }) => id))(
    "of %s have breakers, connectors with their crimper, glands, fixings with drill and level, and instruments",
    (id) => {
      const job = jobFromPattern(id);
      const list = materials(job);
      const has = (start: string) => list.some((line) => line.id.startsWith(start));
      const isNew = (kinds: readonly string[]) =>
        job.site.nodes.some(({ kind, existing, kit }) => kit !== undefined && kinds.includes(kind) && !existing);
      if (isNew(["pv-inverter", "hybrid-inverter", "battery-inverter", "ev-charger", "diverter", "heat-pump"])) {
        expect(
          ["breaker:", "gland", "fixing:", "tool:drill", "tool:level", "tool:torque"].filter((own) => !has(own)),
        ).toEqual([]);
        expect(has("isolator:ac")).toBe(isNew(["pv-inverter", "hybrid-inverter", "battery-inverter"]));
      }
      expect(has("dc-connectors")).toBe(isNew(["pv-inverter", "hybrid-inverter"]));
      expect(has("tool:dc-crimper")).toBe(has("dc-connectors"));
      expect(has("rcd:charger")).toBe(isNew(["ev-charger"]));
      expect(has("tool:rotation")).toBe(job.site.supply.system === "three-phase");
      expect(has("network-plug")).toBe(has("tool:network-crimper"));
    },
  );

  it.each(shippedPatterns().map(({ id }) => id))("of %s are the same sum, however they are read", (id) => {
    const job = jobFromPattern(id);
    const list = materials(job);
    for (const view of ["kind", "place", "step"] as const) {
      const sums = new Map<string, number>();
      for (const { title, lines } of groupedMaterials(list, view, job.site.places)) {
        expect(title.length).toBeGreaterThan(2);
        for (const { item: line, quantity } of lines) sums.set(line.id, (sums.get(line.id) ?? 0) + quantity);
      }
      for (const line of list)
        if (["tools", "instruments", "protective-gear"].includes(line.group))
          expect(sums.get(line.id)).toBeGreaterThan(0);
        else expect(sums.get(line.id)).toBeCloseTo(line.quantity, 6);
    }
  });

  it("have ids of their own, so that a tick stays with its line", () => {
    for (const job of [hub, farm, split])
      expect(new Set(materials(job).map(({ id }) => id)).size).toBe(materials(job).length);
  });
});

describe("distances", () => {
  const { site } = jobFromPattern("energy-manager");
  it("go over other places where that is the only way", () => {
    expect(distanceBetween(site, "roof", "carport")).toEqual({ walkMin: 5, cableM: 49, straightM: undefined });
    expect(distanceBetween(site, "plant", "plant")).toEqual({ walkMin: 0, cableM: 0, straightM: 0 });
    expect(distanceBetween(site, "plant", undefined).cableM).toBeUndefined();
  });
  it("are the same in both directions", () => {
    expect(directWay(site, "carport", "plant")).toBe(directWay(site, "plant", "carport"));
    expect(distanceBetween(site, "carport", "roof")).toEqual(distanceBetween(site, "roof", "carport"));
  });
});

describe("accepted findings", () => {
  const [night] = planFindings(resolve(hub));
  it("leave the open ones, keep their reason, and come back when it is withdrawn", () => {
    const accepted = acceptFinding(hub, night!, {
      reason: "Only large loads matter here",
      at: "2026-11-25T09:00:00.000Z",
      person: "Kim",
    });
    expect(sortFindings(planFindings(resolve(accepted)), accepted.accepted)).toMatchObject({
      open: [],
      accepted: [{ reason: "Only large loads matter here", person: "Kim" }],
    });
    expect(jobSummary(accepted).findings.note).toBe(jobSummary(hub).findings.note - 1);
    expect(sortFindings(planFindings(resolve(hub)), withdrawAcceptance(accepted, night!.id).accepted).open).toEqual([
      night,
    ]);
  });

  it("never hide a stop", () => {
    const stop = { ...night!, severity: "stop" as const };
    expect(
      sortFindings(
        [stop],
        [{ finding: stop.id, title: stop.title, person: "", reason: "no", at: "2026-11-25T09:00:00.000Z" }],
      ).open,
    ).toEqual([stop]);
  });
});
