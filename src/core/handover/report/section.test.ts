import { describe, expect, it } from "vitest";
import { momentText } from "@/core/momentText";
import { section, table } from "@/core/handover/report/section";

describe("a part of a report", () => {
  it("leaves out tables without a row, and has an empty cell where nothing is known", () => {
    const empty = table("Links", ["Link"], []);
    const known = table("Devices", ["Device", "Serial number"], [["Roof inverter", undefined]]);
    expect(section("links", "Links", { tables: [empty, known] }).tables).toEqual([
      { title: "Devices", heads: ["Device", "Serial number"], rows: [["Roof inverter", ""]] },
    ]);
    expect(section("limit", "Export limit", {})).toEqual({
      id: "limit",
      title: "Export limit",
      lines: [],
      tables: [],
      courses: [],
      drawings: [],
      pictures: [],
    });
  });

  it("has its moments in UTC, to the minute", () => {
    expect(momentText("2026-05-06T13:40:12.000Z")).toBe("2026-05-06 13:40 UTC");
  });
});
