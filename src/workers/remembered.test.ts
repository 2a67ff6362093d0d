import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { remembered } from "@/workers/remembered";

describe("remembered", () => {
  it("answers as the function does, and asks it again only for what went out of mind", () => {
    fc.assert(
      fc.property(fc.array(fc.nat({ max: 6 })), fc.integer({ min: 1, max: 5 }), (questions, most) => {
        let asked = 0;
        const own = remembered(
          (n: number) => {
            asked++;
            return n % 3 === 0 ? undefined : n * n;
          },
          String,
          most,
        );
        let inMind: number[] = [];
        let expected = 0;
        for (const question of questions) {
          if (!inMind.includes(question)) expected++;
          inMind = [...inMind.filter((other) => other !== question), question].slice(-most);
          expect(own(question)).toBe(question % 3 === 0 ? undefined : question * question);
        }
        expect(asked).toBe(expected);
      }),
    );
  });
});
