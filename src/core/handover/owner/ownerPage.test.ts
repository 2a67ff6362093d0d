import { describe, expect, it } from "vitest";
import { ownerPage, type OwnerPage } from "@/core/handover/owner/ownerPage";
import { ownerDrawing } from "@/core/handover/owner/ownerDrawing";
import { ownerLanguage, OWNER_LANGUAGE_IDS, OWNER_LANGUAGES } from "@/core/handover/owner/words/ownerLanguages";
import { OWNER_PARTS } from "@/core/handover/owner/words/ownerWords";
import { drawingSchema } from "@/core/drawing";
import { demoDocument } from "../../../../tests/fixtures/demoDocument";
import { jobFromPattern, shippedKits, shippedPatterns } from "../../../../tests/fixtures/shipped";

const textOf = ({ parts }: OwnerPage) =>
  parts
    .flatMap(({ title, lines, drawing }) => [
      title,
      ...lines.map(({ text, asOnDevice }) => `${text} ${asOnDevice ?? ""}`.trim()),
      ...(drawing?.shapes.flatMap((shape) => (shape.kind === "text" ? shape.words : [])) ?? []),
    ])
    .join("\n");

describe("the owner's page", () => {
  it("says of every pattern, in every language, what is there, which way a plus goes, and when to call", () => {
    for (const { id } of shippedPatterns())
      for (const language of OWNER_LANGUAGE_IDS) {
        const page = ownerPage(jobFromPattern(id), language);
        expect(page.parts.map((part) => part.id)).toEqual(
          OWNER_PARTS.filter((part) => page.parts.some((own) => own.id === part)),
        );
        expect(page.parts.map((part) => part.id)).toEqual(
          expect.arrayContaining(["picture", "shows", "usual", "call"]),
        );
        const { flows } = OWNER_LANGUAGES[language].words;
        const shows = page.parts.find((part) => part.id === "shows")!.lines.map(({ text }) => text);
        expect(shows.some((line) => line.includes(flows.importing) || line.includes(flows.exporting))).toBe(true);
        for (const { lines, drawing } of page.parts) expect(lines.length + (drawing ? 1 : 0)).toBeGreaterThan(0);
      }
  });

  it("leaves no English behind in another language, but for what stands on the devices", () => {
    const own = ownerPage(demoDocument("tollgate-cottage"), "de");
    const said = own.parts.flatMap(({ title, lines }) => [title, ...lines.map(({ text }) => text)]).join("\n");
    expect(said).not.toMatch(/\b(the|and|importing|exporting|green|blinks|steady|router changes)\b/);
    for (const words of Object.values(OWNER_LANGUAGES).map((one) => one.words))
      for (const kit of shippedKits())
        for (const { colour } of kit.lamps)
          expect(words === OWNER_LANGUAGES.en.words || words.colours[colour], colour).toBeTruthy();
  });

  it("has the steps after a change of router for what joins by Wi-Fi, and none where nothing does", () => {
    const ids = (pattern: string) => ownerPage(jobFromPattern(pattern), "en").parts.map(({ id }) => id);
    expect(ids("three-phase-storage")).toContain("router");
    expect(ids("hybrid-high-voltage")).not.toContain("router");
    const { parts } = ownerPage(jobFromPattern("three-phase-storage"), "en");
    const router = parts.find(({ id }) => id === "router")!;
    expect(router.lines[0]!.text).toContain("the old name and passphrase");
    expect(router.lines[1]).toEqual({ text: "Hybrid inverter:", isHead: true });
    expect(router.lines.length).toBeGreaterThan(5);
  });

  it("explains this site's lamps, and what a hot tank does where there is one", () => {
    const cottage = textOf(ownerPage(demoDocument("tollgate-cottage"), "en"));
    expect(cottage).toContain("A hot tank takes nothing");
    expect(cottage).toMatch(/lamp Net, green, steady Online/);
    expect(textOf(ownerPage(jobFromPattern("hybrid-high-voltage"), "en"))).not.toContain("hot tank");
  });

  it("says where surplus goes where an order is set, and what happens with the rest", () => {
    const document = demoDocument("tollgate-cottage");
    const of = (order: ("battery" | "heater" | "vehicle")[], powerW?: number) =>
      ownerPage({ ...document, divert: { ...document.divert, order }, limit: { ...document.limit, powerW } }, "en")
        .parts.find(({ id }) => id === "surplus")
        ?.lines.map(({ text }) => text);
    expect(of(["battery", "heater", "vehicle"], 3000)).toEqual([
      "What the house does not use goes first to the battery, then hot water and then the car.",
      "What is left then goes into the grid, at most 3000 W; what is more is not made.",
    ]);
    expect(of(["heater"])?.[1]).toBe("What is left then goes into the grid.");
    expect(of([])).toBeUndefined();
  });

  it("holds nothing of a person, a place or a number that is theirs", () => {
    const document = demoDocument("tollgate-cottage");
    for (const language of OWNER_LANGUAGE_IDS) {
      const text = textOf(ownerPage(document, language));
      for (const name of [
        document.job.name,
        document.job.place,
        document.job.notes,
        ...document.site.places.map((place) => place.name),
      ])
        if (name) expect(text).not.toContain(name);
      expect(text).not.toMatch(/GK[A-Z]\d{7}/);
    }
  });

  it("is in the first language of a browser that it is written in", () => {
    expect(ownerLanguage("fr-CH, de-AT;q=0.9, en;q=0.8")).toBe("de");
    expect(["", "fr", "en-GB,de", "DE", "*"].map(ownerLanguage)).toEqual(["en", "en", "en", "de", "en"]);
  });
});

describe("the owner's picture", () => {
  it("has a box for each device, each inside the page, none over another, of every pattern", () => {
    for (const { id } of shippedPatterns()) {
      const { site } = jobFromPattern(id);
      const drawing = drawingSchema.parse(ownerDrawing(site, OWNER_LANGUAGES.en.words));
      const boxes = drawing.shapes.flatMap((shape) => (shape.kind === "box" ? [shape] : []));
      expect(boxes).toHaveLength(site.nodes.length);
      for (const { x, y, width, height } of boxes) {
        expect(x).toBeGreaterThanOrEqual(0);
        expect(x + width).toBeLessThanOrEqual(drawing.width);
        expect(y + height).toBeLessThanOrEqual(drawing.height);
      }
      const tops = boxes.map(({ y }) => y);
      expect(new Set(tops).size).toBe(tops.length);
    }
  });

  it("points out of what makes power, into what uses it, and both ways at what stores it", () => {
    const { site } = demoDocument("tollgate-cottage");
    const { shapes } = ownerDrawing(site, OWNER_LANGUAGES.en.words);
    const heads = (kind: string) => {
      const rows = shapes.flatMap((shape) => (shape.kind === "box" ? [shape.y + shape.height / 2] : []));
      const named = shapes.flatMap((shape) => (shape.kind === "text" && shape.bold ? [shape.words] : []));
      const at = named.findIndex((name) => site.nodes.find((node) => node.kind === kind)!.name.startsWith(name));
      return shapes.flatMap((shape) => (shape.kind === "head" && shape.y === rows[at] ? [shape.points] : []));
    };
    expect(heads("pv-inverter")).toEqual(["left"]);
    expect(heads("diverter")).toEqual(["right"]);
    expect(heads("battery-inverter")).toEqual(["left", "right"]);
  });
});
