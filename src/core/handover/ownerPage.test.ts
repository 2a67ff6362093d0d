import { describe, expect, it } from "vitest";
import { ownerPage } from "@/core/handover/ownerPage";
import { demoDocument } from "../../../tests/fixtures/demoDocument";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

const textOf = (parts: ReturnType<typeof ownerPage>) =>
  parts.flatMap(({ title, lines }) => [title, ...lines]).join("\n");

describe("the owner's page", () => {
  it("says of every pattern which way a plus goes, and when to call", () => {
    for (const { id } of shippedPatterns()) {
      const parts = ownerPage(jobFromPattern(id));
      expect(parts.map((part) => part.id)).toEqual(expect.arrayContaining(["shows", "usual", "call"]));
      expect(parts.find((part) => part.id === "shows")!.lines.join()).toMatch(/a plus is (importing|exporting)/);
      for (const { lines } of parts) expect(lines.length).toBeGreaterThan(0);
    }
  });

  it("has the steps after a change of router for what joins by Wi-Fi, and none where nothing does", () => {
    const ids = (pattern: string) => ownerPage(jobFromPattern(pattern)).map(({ id }) => id);
    expect(ids("three-phase-storage")).toContain("router");
    expect(ids("hybrid-high-voltage")).not.toContain("router");
    const router = ownerPage(jobFromPattern("three-phase-storage")).find(({ id }) => id === "router")!;
    expect(router.lines[0]).toBe("Hybrid inverter:");
    expect(router.lines.length).toBeGreaterThan(4);
  });

  it("explains this site's lamps, and what a hot tank does where there is one", () => {
    const cottage = textOf(ownerPage(demoDocument("tollgate-cottage")));
    expect(cottage).toContain("A hot tank takes nothing");
    expect(cottage).toContain("lamp Net, green, steady: Online");
    expect(textOf(ownerPage(jobFromPattern("hybrid-high-voltage")))).not.toContain("hot tank");
  });

  it("holds nothing of a person, a place or a number that is theirs", () => {
    const document = demoDocument("tollgate-cottage");
    const text = textOf(ownerPage(document));
    for (const name of [
      document.job.name,
      document.job.place,
      document.job.notes,
      ...document.site.places.map((place) => place.name),
    ])
      if (name) expect(text).not.toContain(name);
    expect(text).not.toMatch(/GK[A-Z]\d{7}/);
  });
});
