import { describe, expect, it } from "vitest";
import type { JobDocument } from "@/core/job/jobDocument";
import { OWED_TESTS } from "@/core/plan/visitSettings";
import type { StepTag, VisitStep } from "@/core/visit/visitStep";
import { visitSheet } from "@/core/visit/visitSheet";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

const PATTERNS = shippedPatterns()
  .filter(({ visit }) => visit === undefined)
  .map(({ id }) => id);

/** What every sheet of an installation says: held over all patterns, from the plan and not from the rules. */
describe.each(PATTERNS)("The sheet of %s", (id) => {
  const job = jobFromPattern(id);
  const { steps } = visitSheet(job);
  const of = (tag: StepTag, about?: string) =>
    steps.filter((step) => step.tag === tag && (about === undefined || step.about === about));
  const at = (step: VisitStep | undefined) => (step ? steps.indexOf(step) : -1);
  const kitOf = (kit: string | undefined) => job.kits.find((own) => own.id === kit);
  const newNodes = job.site.nodes.filter(({ existing, kit }) => !existing && kit !== undefined);
  const says = (step: VisitStep | undefined, label: string) =>
    step?.content.find((line) => line.label === label)?.value;

  it("energises every board that was isolated, one after the other, each measured above and below", () => {
    for (const { about } of of("isolate")) {
      const [clear] = of("clear", about);
      const source = [...of("restore", about), ...of("restore-backup", about)][0];
      const [loads] = of("loads", about);
      expect([clear, source, loads].every((step) => step !== undefined)).toBe(true);
      expect(at(clear)).toBeLessThan(at(source));
      expect(at(source)).toBeLessThan(at(loads));
      const fields = source!.evidence.kind === "values" ? source!.evidence.fields.map((field) => field.id) : [];
      expect(fields).toEqual(expect.arrayContaining(["l1", "n-pe", "below"]));
    }
    const loads = of("loads").map(at);
    for (const tag of ["restore", "restore-backup", "island", "on-generator", "on-battery", "on-dc"] as const)
      for (const source of of(tag)) expect(at(source)).toBeLessThan(Math.min(Infinity, ...loads));
  });

  it("has every flow proved that is there: each load, each battery both ways, the sun, the grid off and back", () => {
    const proved = of("prove").map(({ about }) => about);
    if (job.site.meters.length === 0) return;
    const { nodes } = job.site;
    const expected = nodes.flatMap(({ id: node, kind }) => {
      if (["test-load", "diverter", "ev-charger", "heat-pump"].includes(kind)) return [`on:${node}`];
      if (kind === "battery-inverter" || kind === "hybrid-inverter") return [`charging:${node}`, `discharging:${node}`];
      return kind === "generator" ? [`running:${node}`] : [];
    });
    expect(proved).toEqual(expect.arrayContaining(["night", ...expected]));
    const hasBackup = of("island").length > 0;
    expect([proved.includes("grid-off"), proved.includes("grid-back")]).toEqual([hasBackup, hasBackup]);
    if (hasBackup) {
      expect(proved.at(-1)).toBe("grid-back");
      expect(proved.indexOf("grid-off")).toBeGreaterThan(proved.indexOf("night"));
    }
  });

  it("gives each reason of a kit for its order of switching on as a sentence of its own", () => {
    for (const tag of ["on-battery", "on-dc", "on-ac"] as const)
      for (const { why, about } of of(tag)) {
        const device = [...job.site.nodes, ...job.site.equipment].find((own) => own.id === about);
        const reasons = (kitOf(device?.kit)?.powerUp ?? []).map((order) => order.why);
        for (const reason of reasons) expect(`${why}. `).toContain(`. ${reason}. `);
      }
  });

  it("takes the readings of every input in each proving step, with what they should be", () => {
    const inputs = job.site.meters.flatMap((meter) => meter.inputs.map(({ n }) => `${meter.id}/${n}`));
    for (const { evidence } of of("prove")) {
      const fields = evidence.kind === "values" ? evidence.fields : [];
      expect(fields.map((field) => field.id)).toEqual(inputs);
      expect(fields.every(({ expected, unit }) => unit === "W" && expected!.startsWith("about"))).toBe(true);
    }
  });

  it("wires what stands in series with its direction, and earths inverters, chargers and batteries", () => {
    for (const { id: node, kit } of newNodes.filter(({ kind }) => kind !== "board")) {
      expect(of("bond", node)).toHaveLength(1);
      expect(of("wire-power", node)).toHaveLength(1);
      const ports = kitOf(kit)!.ports.filter(({ kind }) => kind === "mains");
      if (ports.length > 1 && kitOf(kit)!.kind !== "diverter")
        expect(says(of("wire-power", node)[0], "Direction")).toContain(ports[0]!.label);
    }
    for (const { id: item } of job.site.equipment.filter(
      ({ kit, existing }) => !existing && kitOf(kit)?.kind === "battery",
    ))
      expect(of("bond", item)).toHaveLength(1);
    for (const { id: charger } of newNodes.filter(({ kind }) => kind === "ev-charger"))
      expect(says(of("wire-power", charger)[0], "Protective device")).toContain("residual-current");
    for (const { id: solar } of newNodes.filter(({ kind }) => kind === "pv-inverter"))
      expect(says(of("wire-power", solar)[0], "Most current")).toMatch(/^[\d.]+ A on each phase/);
  });

  it("limits each string by its modules, and a battery by its kit", () => {
    for (const step of of("strings")) {
      const fields = step.evidence.kind === "values" ? step.evidence.fields : [];
      expect(fields.length).toBe(job.visit.strings.filter(({ device }) => device === step.about).length);
      for (const { least, most } of fields) expect(most! / least!).toBeLessThan(1.5);
    }
    for (const step of of("battery-polarity")) expect(step.evidence.kind).toBe("values");
  });

  it("types the role and the ratio of each input where it is computed with, and reads every value back", () => {
    for (const step of of("configure")) {
      expect(step.evidence.kind).toBe("read-back");
      const fields = step.evidence.kind === "read-back" ? step.evidence.fields : [];
      expect(fields.map(({ label, value }) => ({ label, value }))).toEqual(step.content);
      expect(new Set(fields.map(({ label }) => label)).size).toBe(fields.length);
    }
    const typed = of("configure").flatMap(({ content }) => content.map(({ value }) => value));
    const roles = job.site.meters
      .filter(({ existing }) => !existing)
      .flatMap(({ inputs }) => inputs.filter(({ builtIn, role }) => !builtIn && role !== undefined));
    const isToldElsewhere = job.site.nodes.some(({ existing, kit }) => existing && kit !== undefined);
    if (roles.length > 0 && !isToldElsewhere) expect(typed).toContain("grid");
  });

  it("names battery and inverter to each other, and watches their link for longer than it takes to stop", () => {
    for (const link of job.links.filter(({ kind }) => kind === "can")) {
      const [inverter, battery] = link.members.map(({ item }) => item);
      const names = of("configure", battery).flatMap(({ content }) => content.map(({ value }) => value));
      const kit = kitOf(job.site.nodes.find((node) => node.id === inverter)?.kit);
      expect(names).toContain(kit!.name);
      const [watch] = of("watch", link.id);
      expect(watch!.waitMin * 60).toBeGreaterThan(kit!.timers.commsLossShutdownS!);
    }
  });

  it("commands several inverters off before they are set, and has all of them run before a proof", () => {
    const set = of("configure").filter(({ about }) => {
      const node = newNodes.find((own) => own.id === about);
      const ports = kitOf(node?.kit)?.ports ?? [];
      const isInverter = ["pv-inverter", "hybrid-inverter", "battery-inverter"].includes(node?.kind ?? "");
      return isInverter && ports.every(({ kind }) => kind !== "power-line");
    });
    expect(of("inverters-off")).toHaveLength(set.length > 1 ? 1 : 0);
    if (set.length < 2) return;
    const [off, on] = [of("inverters-off")[0]!, of("inverters-on")[0]!];
    for (const step of set) {
      expect(at(off)).toBeLessThan(at(step));
      expect(at(step)).toBeLessThan(at(on));
    }
    expect(on.evidence).toMatchObject({
      fields: [
        { id: "alarms", most: 0 },
        { id: "running", least: set.length },
      ],
    });
    for (const proof of of("prove")) expect(at(on)).toBeLessThan(at(proof));
  });

  it("has each rule of a kit that no check can tell once, and covers at every place that was opened", () => {
    const rules = new Set(
      [...job.site.nodes, ...job.site.meters, ...job.site.equipment]
        .filter(({ existing }) => !existing)
        .flatMap(({ kit }) => (kitOf(kit)?.topology ?? []).filter(({ check }) => check === undefined))
        .map(({ text }) => text),
    );
    expect(of("rule")).toHaveLength(rules.size);
    const dead = new Set(of("prove-dead").map(({ place }) => place));
    const covers = new Set(of("covers").map(({ place }) => place));
    for (const { place } of [...of("isolate"), ...of("mount").filter(({ about }) => of("bond", about).length > 0)])
      expect(covers.has(place)).toBe(true);
    expect([...covers].every((place) => dead.has(place))).toBe(true);
  });

  it("asks the owed tests with limit or answer and their instrument, and none that is not asked for", () => {
    const tags: readonly StepTag[] = ["test-dead", "test-live", "test-running"];
    const tests = steps.filter(({ tag }) => tags.includes(tag));
    for (const step of tests) {
      expect(says(step, "Instrument")).toBeDefined();
      expect(step.caution).toBeDefined();
      expect(step.source).toContain("Local rules first");
    }
    const none: JobDocument = { ...job, visit: { ...job.visit, owedTests: [] } };
    expect(visitSheet(none).steps.filter(({ tag }) => tags.includes(tag))).toEqual([]);
    for (const kept of OWED_TESTS) {
      const one = visitSheet({ ...job, visit: { ...job.visit, owedTests: [kept], owedTestsSource: "House rule 7" } });
      const left = one.steps.filter(({ tag }) => tags.includes(tag));
      expect(left.every(({ about, source }) => about!.startsWith(kept) && source.endsWith("House rule 7"))).toBe(true);
    }
  });
});
