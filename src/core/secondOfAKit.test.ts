import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { benchOfJob } from "@/core/bench/benchOfJob";
import { seenDevices } from "@/core/chain/seenDevices";
import { controlFindings } from "@/core/control/controlFindings";
import { exportLimiter, limitRequest } from "@/core/control/exportLimiter";
import { limitEntries } from "@/core/control/limitEntries";
import { whoSeesWhat } from "@/core/control/whoSeesWhat";
import { registrationsOf } from "@/core/handover/registration/registrationsDue";
import { plainText } from "@/core/sentence";
import { resolve } from "@/core/plan/resolve";
import { exportLimitRequestSchema } from "@/core/simulation/exportLimitSchema";
import { FORGOTTEN } from "../../tests/fixtures/forgotten";
import { anyDoubled } from "../../tests/fixtures/secondOfAKit";

const repeated = (ids: readonly string[]) => ids.filter((id, at) => ids.indexOf(id) !== at);
const anyLimited = anyDoubled.map((job) => ({ ...job, limit: { ...job.limit, powerW: 3000 } }));

describe("A second device of the same kit", () => {
  it("is read on its line under an address of its own", () => {
    fc.assert(
      fc.property(anyDoubled, (job) => {
        const { lines } = benchOfJob(job);
        expect(repeated(lines.map(({ link }) => link))).toEqual([]);
        for (const { units } of lines) {
          expect(repeated(units.map(({ unit }) => String(unit)))).toEqual([]);
          expect(repeated(units.map(({ device }) => device))).toEqual([]);
        }
      }),
      { numRuns: 40 },
    );
  });

  it("is seen by its owner as a device of its own, and registered as one", () => {
    fc.assert(
      fc.property(anyDoubled, (job) => {
        expect(repeated(seenDevices(resolve(job)).map(({ device }) => device.id))).toEqual([]);
        expect(repeated(registrationsOf(job, []).map(({ id }) => id))).toEqual([]);
      }),
      { numRuns: 40 },
    );
  });

  it("takes its part in the export limit: simulated, and told what to type, once each", () => {
    fc.assert(
      fc.property(anyLimited, (job) => {
        const plan = resolve(job);
        const limiter = exportLimiter(plan);
        if (!limiter) return;
        const making = job.site.nodes.filter(({ id }) => limiter.inverters.some((own) => own.id === id));
        expect(making.length).toBe(limiter.inverters.length);
        const request = limitRequest(plan, limiter, "load-drop");
        expect(exportLimitRequestSchema.safeParse(request).error?.issues).toBeUndefined();
        expect(repeated(request.inverters.map(({ id }) => id))).toEqual([]);
        expect(repeated(limitEntries(plan, limiter).map(({ device }) => device))).toEqual([]);
      }),
      { numRuns: 40 },
    );
  });

  it("acts on the grid beside the first where batteries and heaters do, with the power of both", () => {
    fc.assert(
      fc.property(anyLimited, (job) => {
        const plan = resolve(job);
        const limiter = exportLimiter(plan);
        if (!limiter) return;
        const { battery, diverter } = limitRequest(plan, limiter, "load-drop", true);
        const ratedW = (kind: string) =>
          job.site.nodes.reduce((sum, node) => sum + (node.kind === kind ? (node.ratedW ?? 0) : 0), 0);
        expect([battery?.powerW ?? 0, diverter?.ratedW ?? 0]).toEqual([ratedW("battery-inverter"), ratedW("diverter")]);
      }),
      { numRuns: 40 },
    );
  });

  it("is seen or not by each controller, and every finding of limit and surplus says so without a gap", () => {
    fc.assert(
      fc.property(anyLimited, (job) => {
        const plan = resolve(job);
        const sights = whoSeesWhat(plan, "planned");
        expect(repeated(sights.map(({ controller, device }) => `${controller.id} ${device.id}`))).toEqual([]);
        const findings = controlFindings(plan);
        expect(repeated(findings.map(({ id }) => id))).toEqual([]);
        for (const { detail, cure } of findings)
          for (const text of [plainText(detail), plainText(cure)]) expect(text).not.toMatch(FORGOTTEN);
      }),
      { numRuns: 40 },
    );
  });
});
