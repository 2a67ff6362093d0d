import { describe, expect, it } from "vitest";
import { asPrinted } from "@/core/job/asPrinted";
import { wholeWiring } from "@/core/links/wiring/meterWiring";
import { saidWiring } from "@/core/links/wiring/saidWiring";
import { resolve } from "@/core/plan/resolve";
import { jobFromPattern, shippedPatterns } from "../../../../tests/fixtures/shipped";

const METRIC_FERRULE = /^[\d.× ]+( to [\d.]+)? mm²$/;

describe("the wiring as its reader writes it", () => {
  it.each(shippedPatterns().map(({ id }) => id))(
    "of %s has every core, once, and ferrules of the site's trade",
    (id) => {
      const job = jobFromPattern(id);
      const plan = resolve(job);
      const plain = wholeWiring(plan);
      const said = saidWiring(plan, asPrinted(job));
      const ids = (groups: typeof plain) => groups.map(({ rows }) => rows.map((row) => row.id));
      expect(ids(said)).toEqual(ids(plain));
      if (job.site.supply.system !== "split-phase") return expect(said).toEqual(plain);
      const ferrules = said.flatMap(({ rows }) => rows.flatMap(({ from, to }) => [from.ferrule, to?.ferrule]));
      const metric = plain.flatMap(({ rows }) => rows.flatMap(({ from, to }) => [from.ferrule, to?.ferrule]));
      expect(metric.filter((text) => text && METRIC_FERRULE.test(text)).length).toBeGreaterThan(0);
      expect(ferrules.filter((text) => text && METRIC_FERRULE.test(text))).toEqual([]);
    },
  );
});
