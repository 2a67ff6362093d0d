import { cruise, type ICruiseOptions, type ICruiseResult, type IForbiddenRuleType } from "dependency-cruiser";
import extractTsConfig from "dependency-cruiser/config-utl/extract-ts-config";
import { describe, expect, it } from "vitest";

/**
 * What each layer may import; everything else below src/, and every package that is not listed, is against the arrows.
 */
const LAYERS: readonly { readonly layer: string; readonly may: string }[] = [
  { layer: "core", may: "^src/core/|node_modules/(zod|yaml)/" },
  { layer: "db", may: "^src/(core|db)/|node_modules/(zod|pg)/|^(crypto|fs/promises)$" },
  { layer: "workers", may: "^src/(core|workers)/|node_modules/(comlink|zod|tarn)/|^(worker_threads|timers/promises)$" },
  {
    layer: "bench",
    may:
      "^src/(core|bench)/|node_modules/(modbus-serial|aedes|mqtt|dns-packet|vitest)/|" +
      "^(net|http|dgram|path|child_process)$",
  },
  {
    layer: "reader",
    may:
      "^src/(core|reader)/|node_modules/(modbus-serial|mqtt|serialport)/|" +
      "^(net|http|stream|dns/promises|fs/promises)$",
  },
  { layer: "ui", may: "^src/(core|ui|workers)/|node_modules/(?!(pg|pino|node-pg-migrate)/)" },
];

/** The rooms of core from the ground up: each with the rooms below it that it may know. */
const ROOMS: readonly { readonly room: string; readonly may: readonly string[] }[] = [
  { room: "site", may: [] },
  { room: "simulation", may: [] },
  { room: "board", may: ["site"] },
  { room: "online", may: [] },
  { room: "kits", may: ["site", "online"] },
  { room: "flows", may: ["site"] },
  { room: "plan", may: ["site", "kits", "simulation"] },
  { room: "chain", may: ["site", "kits", "plan", "online"] },
  { room: "sensing", may: ["site", "kits", "plan"] },
  { room: "links", may: ["site", "kits", "plan", "sensing"] },
  { room: "control", may: ["site", "kits", "plan", "sensing", "links", "flows", "simulation"] },
  { room: "job", may: ["site", "kits", "plan", "sensing", "links", "flows", "simulation", "control", "online"] },
  { room: "live", may: ["site", "kits", "plan", "links", "flows", "control", "job"] },
  { room: "bench", may: ["site", "kits", "plan", "flows", "simulation", "control", "live", "online", "chain", "job"] },
  {
    room: "visit",
    may: ["site", "kits", "plan", "sensing", "links", "flows", "simulation", "control", "online", "job"],
  },
  {
    room: "handover",
    may: ["site", "board", "kits", "plan", "online", "chain", "flows", "control", "live", "job", "visit"],
  },
  { room: "patterns", may: ["site", "kits", "plan", "sensing", "links", "job", "edits"] },
  { room: "answers", may: ["job", "visit"] },
  { room: "edits", may: ["site", "kits", "plan", "sensing", "links", "flows", "job"] },
];

const TEST_FILES = "\\.test\\.tsx?$";

const forbidden: IForbiddenRuleType[] = [
  ...LAYERS.map(({ layer, may }): IForbiddenRuleType => ({
    name: `${layer} imports only what it may`,
    severity: "error",
    from: { path: `^src/${layer}/`, pathNot: TEST_FILES },
    to: { pathNot: may },
  })),
  ...ROOMS.map(({ room, may }): IForbiddenRuleType => ({
    name: `core/${room} imports only ${["itself", ...may].join(", ")}`,
    severity: "error",
    from: { path: `^src/core/${room}/`, pathNot: TEST_FILES },
    to: { path: "^src/core/[^/]+/", pathNot: `^src/core/(${[room, ...may].join("|")})/` },
  })),
  {
    name: "what stands in no room of core knows none, but for the stages and the summary of a job",
    severity: "error",
    from: { path: "^src/core/[^/]+$", pathNot: `${TEST_FILES}|^src/core/(stages|jobSummary)\\.ts$` },
    to: { path: "^src/core/[^/]+/" },
  },
  {
    name: "no room of core but that of the answers knows the stages or the summary of a job",
    severity: "error",
    from: { path: "^src/core/(?!answers/)[^/]+/", pathNot: TEST_FILES },
    to: { path: "^src/core/(stages|jobSummary)\\.ts$" },
  },
  {
    name: "no circles",
    severity: "error",
    from: { path: "^src/" },
    to: { circular: true },
  },
];

const options: ICruiseOptions = {
  validate: true,
  tsPreCompilationDeps: true,
  tsConfig: { fileName: "tsconfig.json" },
  doNotFollow: { path: "node_modules" },
  enhancedResolveOptions: {
    exportsFields: ["exports"],
    conditionNames: ["import", "require", "node", "default", "types"],
  },
};

describe("the arrows of ARCHITECTURE.md", () => {
  it("all point one way, and none in a circle", async () => {
    const result = await cruise(["src"], { ...options, ruleSet: { forbidden } }, undefined, {
      tsConfig: extractTsConfig("tsconfig.json"),
    });
    const { summary, modules } = result.output as ICruiseResult;
    expect(modules.length).toBeGreaterThan(50);
    expect(summary.violations.map(({ from, to, rule }) => `${rule.name}: ${from} → ${to}`)).toEqual([]);
  });

  it("are checked: an import against them is found", async () => {
    const rule: IForbiddenRuleType = {
      name: "core imports no zod",
      severity: "error",
      from: { path: "^src/core/" },
      to: { path: "node_modules/zod/" },
    };
    const result = await cruise(["src/core/problem.ts"], { ...options, ruleSet: { forbidden: [rule] } }, undefined, {
      tsConfig: extractTsConfig("tsconfig.json"),
    });
    expect((result.output as ICruiseResult).summary.violations).not.toEqual([]);
  });
});
