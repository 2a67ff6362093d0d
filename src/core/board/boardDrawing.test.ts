import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { boardDrawing } from "@/core/board/boardDrawing";
import { drawingSchema, headPath } from "@/core/drawing";
import { inputTag } from "@/core/site/inputTag";
import { arbitrarySite } from "../../../tests/fixtures/arbitrarySite";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

describe("the board as a drawing", () => {
  it("has every device by its name and every CT by its tag, of every pattern, all inside its size", () => {
    for (const { id } of shippedPatterns()) {
      const { site } = jobFromPattern(id);
      const { shapes, width, height, about } = drawingSchema.parse(boardDrawing(site, "iec"));
      const words = shapes.flatMap((shape) => (shape.kind === "text" ? [shape.words] : []));
      for (const { name } of site.nodes)
        expect(
          words.some((own) => name.startsWith(own.replace("…", ""))),
          name,
        ).toBe(true);
      for (const { plug, around } of site.cts)
        if (plug && around.length > 0) {
          expect(words).toContain(inputTag(site, plug.meter, plug.input));
          expect(about).toContain(`${inputTag(site, plug.meter, plug.input)} round ${around[0]!.conductor}`);
        }
      for (const shape of shapes) {
        const [x, y] = shape.kind === "line" ? [shape.x2, shape.y2] : [shape.x, shape.y];
        expect(x).toBeGreaterThanOrEqual(0);
        expect(x).toBeLessThanOrEqual(width);
        expect(y).toBeGreaterThanOrEqual(0);
        expect(y).toBeLessThanOrEqual(height + 1);
      }
    }
  });

  it("turns the head of a CT's arrow round with the CT, and nothing else, whatever the site", () => {
    fc.assert(
      fc.property(
        arbitrarySite({ systems: ["single-phase", "three-phase"], mostDevices: 6, mostMeters: 2 }),
        (site) => {
          const turned = site.cts.map((ct) => ({
            ...ct,
            arrow: ct.arrow === "to-load" ? ("to-grid" as const) : ("to-load" as const),
          }));
          const [own, other] = [boardDrawing(site, "iec"), boardDrawing({ ...site, cts: turned }, "iec")];
          for (const [at, shape] of own.shapes.entries()) {
            const now = other.shapes[at]!;
            if (shape.kind === "head") expect(now).not.toEqual(shape);
            else expect(now).toEqual(shape);
          }
        },
      ),
      { numRuns: 60 },
    );
  });

  it("draws a head with its tip where it points", () => {
    expect(headPath({ x: 10, y: 10, points: "right", size: 4 })).toBe("M10 10L6 7L6 13Z");
    expect(headPath({ x: 10, y: 10, points: "left", size: 4 })).toBe("M10 10L14 7L14 13Z");
  });
});
