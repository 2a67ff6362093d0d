import type { ComponentType } from "react";
import { renderToString } from "react-dom/server";
import { describe, expect, it, vi } from "vitest";
import type { JobDocument } from "@/core/job/jobDocument";
import type { Sentence } from "@/core/sentence";
import { demoDocument } from "../../../tests/fixtures/demoDocument";
import { jobFromPattern } from "../../../tests/fixtures/shipped";
import type { stagePages as StagePages } from "../../../tests/fixtures/stagePages";

const shown = vi.hoisted(() => ({ part: "", isSecond: false }));
vi.mock("next/navigation", () => ({
  useSearchParams: () => new URLSearchParams({ part: shown.part }),
  usePathname: () => "/jobs/1/plan",
  useRouter: () => ({ push: () => undefined, refresh: () => undefined }),
}));
/** The second language is English with every word between marks: what stands outside of them comes from elsewhere. */
vi.mock("@/ui/words/inLanguage", () => ({
  APP_LANGUAGE: "en",
  inLanguage: ({ en }: { readonly en: Readonly<Record<string, Word>> }) =>
    shown.isSecond ? Object.fromEntries(Object.entries(en).map(([key, word]) => [key, marked(word)])) : en,
}));

type Word = string | ((...values: readonly unknown[]) => Sentence);

const MARKS = /[⟦⟧]/g;

function marked(word: Word): Word {
  if (typeof word === "string") return `⟦${word}⟧`;
  return (...values) => {
    const said = word(...values);
    return typeof said === "string" ? `⟦${said}⟧` : ["⟦", ...said, "⟧"];
  };
}

/** What is drawn after all modules were read anew, in one of the two languages. */
async function drawn<Module>(
  isSecond: boolean,
  read: () => Promise<Module>,
  draw: (module: Module) => readonly string[],
) {
  shown.isSecond = isSecond;
  vi.resetModules();
  return draw(await read());
}

/** What a person reads on a page, or hears: its texts, and the attributes that hold some. */
function readOn(html: string): readonly string[] {
  const page = html.replaceAll("<!-- -->", "");
  const said = [...page.matchAll(/ (?:aria-label|placeholder|title|alt)="([^"]*)"/g)].map(([, text]) => text!);
  return [...said, ...page.split(/<[^>]*>/)].map((text) => text.trim()).filter((text) => /\p{L}{2}/u.test(text));
}

/** The elements in which two pages differ, each with its text; a mark has no capital letter, so those do not count. */
function different(page: string, other: string): readonly string[] {
  const [own, others] = [page, other].map((html) => html.toLowerCase().split(/(?=<)/)) as [string[], string[]];
  return own.flatMap((element, at) => (element === others[at] ? [] : [`${element} / ${others[at]}`]));
}

/** The text without what stands between marks, however deep. */
function outsideMarks(text: string): string {
  const inner = text.replace(/⟦[^⟦⟧]*⟧/g, "");
  return inner === text ? text : outsideMarks(inner);
}

const JOBS: readonly (readonly [string, JobDocument])[] = [
  ["a pattern", jobFromPattern("energy-manager")],
  ["Brindle Dairy", demoDocument("brindle-dairy")],
];

const FORMS: readonly (readonly [string, () => Promise<ComponentType>])[] = [
  ["the questions of a site that reads wrong", async () => (await import("@/ui/jobs/ReadsWrongPage")).ReadsWrongPage],
  ["a new job", async () => bound((await import("@/ui/jobs/NewJobForm")).NewJobForm, { onClose: () => undefined })],
  [
    "a job brought in",
    async () => bound((await import("@/ui/jobs/ImportJob")).ImportJob, { onClose: () => undefined }),
  ],
  ["no deadlines", async () => bound((await import("@/ui/jobs/DeadlinesPage")).DeadlinesPage, NO_DEADLINES)],
  ["no jobs", jobsPage],
  ["registers from a table", async () => bound((await import("@/ui/kits/RegisterCsv")).RegisterCsv, NO_REGISTERS)],
  ["the look of the page", async () => (await import("@/ui/parts/browser/ThemeSwitch")).ThemeSwitch],
];
const NO_DEADLINES = { deadlines: [], today: "2026-11-29" };
const NO_REGISTERS = { onRegisters: () => undefined };

/** The list of jobs, with none in it. */
async function jobsPage(): Promise<ComponentType> {
  const { JobsPage } = await import("@/ui/jobs/JobsPage");
  const { ALL_JOBS } = await import("@/ui/jobs/JobTable");
  const found = { jobs: [], total: 0, page: 1, pages: 1, places: [] };
  return bound(JobsPage, { found, search: { ...ALL_JOBS, sort: "changed", order: "down" }, ...NO_DEADLINES });
}

function bound<Props extends object>(Drawn: ComponentType<Props>, props: Props): ComponentType {
  return function Bound() {
    return <Drawn {...props} />;
  };
}

describe("A second language", () => {
  it.each(JOBS)("changes the words of every stage of %s, and nothing else", async (_name, document) => {
    const draw = ({ stagePages }: { readonly stagePages: typeof StagePages }) =>
      stagePages(document, (part) => (shown.part = part));
    const read = () => import("../../../tests/fixtures/stagePages");
    const english = await drawn(false, read, draw);
    const second = await drawn(true, read, draw);
    expect(second.flatMap((page, at) => different(page.replaceAll(MARKS, ""), english[at]!))).toEqual([]);
    for (const page of second) expect(page.match(MARKS)?.length ?? 0).toBeGreaterThan(20);
  });

  it.each(FORMS)("reaches every word of %s", async (_name, read) => {
    const [page] = await drawn(true, read, (Drawn) => [renderToString(<Drawn />)]);
    const texts = readOn(page!);
    expect(texts.length).toBeGreaterThan(0);
    expect(texts.map(outsideMarks).filter((text) => /\p{L}{3}/u.test(text))).toEqual([]);
  });

  it("would be missed where a word stands beside the catalogue", () => {
    const texts = readOn('<p aria-label="Findings">⟦Step ⟦one⟧ of 3⟧<b>is open</b></p>');
    expect(texts.map(outsideMarks).filter((text) => /\p{L}{3}/u.test(text))).toEqual(["Findings", "is open"]);
  });
});
