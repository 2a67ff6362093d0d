import { describe, expect, it, vi } from "vitest";
import type { JobDocument } from "@/core/job/jobDocument";
import { asPrinted } from "@/core/job/asPrinted";
import { namesGiven } from "@/core/job/namesGiven";
import type { PersonStyle } from "@/core/numberStyle";
import { visitSheet } from "@/core/visit/visitSheet";
import { demoDocument } from "../../../../tests/fixtures/demoDocument";
import { jobFromPattern } from "../../../../tests/fixtures/shipped";
import { stagePages } from "../../../../tests/fixtures/stagePages";

const shown = vi.hoisted(() => ({ part: "", decimal: "point" }));
vi.mock("next/navigation", () => ({
  useSearchParams: () => new URLSearchParams({ part: shown.part }),
  usePathname: () => "/jobs/1/plan",
  useRouter: () => ({ push: () => undefined, refresh: () => undefined }),
}));

vi.mock("@/ui/parts/browser/browserSetting", async (original) => ({
  ...(await original<object>()),
  useBrowserSetting: (_setting: unknown, onServer: unknown) =>
    isStyle(onServer) ? { ...onServer, decimal: shown.decimal } : onServer,
}));

function isStyle(setting: unknown): setting is PersonStyle {
  return typeof setting === "object" && setting !== null && "decimal" in setting;
}

/** A metric one: what stands behind a gauge, or in a field whose section is no gauge, is none. */
const METRIC = /.*\d\s(?:m(?![\w²·])|mm²(?!\))).*/g;
const US = /\d\s(?:ft\b|AWG)/g;

/** Accuracy class, radio band and the lines of a CAN log are written one way everywhere. */
const WITH_A_POINT = /class \d\.\dS?|\d\.\d (?:and \d )?GHz|\(\d+\.\d+\) can0 \S+/g;
const DECIMAL_POINT = /.*(?<![\d.])\d+\.\d+(?![\d.]).*/g;

/** What is read on a page, and what stands in its boxes. */
function textOf(html: string): string {
  const boxes = [...html.matchAll(/<input[^>]* value="([^"]*)"/g)].map(([, text]) => text);
  return [...boxes, html.replaceAll("<!-- -->", "").replace(/<option.*?<\/option>|<[^>]*>/g, "\n")].join("\n");
}

function pagesOf(document: JobDocument): string {
  return stagePages(document, (part) => (shown.part = part))
    .map(textOf)
    .join("\n");
}

describe("Decimals", () => {
  it.each(["larkspur-house", "brindle-dairy"])("of %s have the person's sign on every page", (id) => {
    const document = demoDocument(id);
    const comma = pagesIn("comma", document);
    expect(comma.match(DECIMAL_POINT) ?? []).toEqual([]);
    expect(pagesIn("point", document).match(DECIMAL_POINT)!.length).toBeGreaterThan(20);
  });
});

/** The pages in one style, without what is written one way in both: names, and what a standard writes. */
function pagesIn(decimal: PersonStyle["decimal"], document: JobDocument): string {
  shown.decimal = decimal;
  const pages = namesGiven(document).reduce((text, name) => text.replaceAll(name, ""), pagesOf(document));
  shown.decimal = "point";
  return pages.replace(WITH_A_POINT, "");
}

describe("Lengths and sections", () => {
  it("of a job on 120/240 V are in feet and by gauge on every page", () => {
    const text = pagesOf(demoDocument("larkspur-house"));
    expect(text.match(METRIC) ?? []).toEqual([]);
    expect(text.match(US)!.length).toBeGreaterThan(20);
  });

  it("of every other job are in metres and mm²", () => {
    const text = pagesOf(demoDocument("brindle-dairy"));
    expect(text.match(US) ?? []).toEqual([]);
    expect(text.match(METRIC)!.length).toBeGreaterThan(20);
  });

  it("of every step on 120/240 V are written so, with torques for either screwdriver", () => {
    const document = jobFromPattern("split-phase-backup");
    const say = asPrinted(document);
    const lines = visitSheet(document).steps.flatMap(({ title, why, content }) => [
      title,
      why,
      ...content.map(({ value }) => value ?? ""),
    ]);
    const text = lines.map(say).join("\n");
    expect(text.match(METRIC) ?? []).toEqual([]);
    expect(text).toContain("AWG");
    expect(text).toMatch(/N·m \(\d+(\.\d)? lb·in\)/);
  });
});
