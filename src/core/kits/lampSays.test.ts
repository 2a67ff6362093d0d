import { describe, expect, it } from "vitest";
import { LAMP_MOMENTS } from "@/core/kits/behaviourSchema";
import { lampSays } from "@/core/kits/lampSays";
import { shippedKits } from "../../../tests/fixtures/shipped";

const lamp = { lamp: "Net", colour: "white", pattern: "slow-blink", means: "Looking" } as const;

describe("A lamp", () => {
  it("says what its kit names for that moment, else for any, and is unknown where nothing is named", () => {
    const named = { ...lamp, says: "wait" as const, at: { power: "good" as const }, waitMin: 3, next: "Move it" };
    expect(lampSays(named, "power").says).toBe("good");
    expect(lampSays(named, "online")).toEqual({ says: "wait", waitMin: 3, next: "Move it" });
    expect(lampSays(lamp, "online").says).toBe("unknown");
  });

  it("of a kit from before is told by green and red only", () => {
    expect(lampSays({ ...lamp, colour: "green" }, "power").says).toBe("good");
    expect(lampSays({ ...lamp, colour: "red" }, "power").says).toBe("bad");
    expect(lampSays({ ...lamp, colour: "orange" }, "power").says).toBe("unknown");
  });

  it("of every kit that ships says something at each moment, and what is bad or waits says what next", () => {
    for (const kit of shippedKits())
      for (const own of kit.lamps)
        for (const moment of LAMP_MOMENTS) {
          const { says, next } = lampSays(own, moment);
          expect(["good", "wait", "bad"]).toContain(says);
          if (says === "bad")
            expect({ kit: kit.id, lamp: own.means, next }).toMatchObject({ next: expect.any(String) as string });
        }
  });
});
