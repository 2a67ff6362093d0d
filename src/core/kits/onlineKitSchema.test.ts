import { describe, expect, it } from "vitest";
import { kitSchema } from "@/core/kits/kitSchema";
import { kitSheet } from "@/core/kits/kitSheet";
import { SET_UP_BY } from "@/core/kits/onlineKitSchema";
import { shippedKits } from "../../../tests/fixtures/shipped";

const kit = shippedKits().find(({ id }) => id === "hybrid-single-5k-lv")!;

/** Where a kit with another way online is refused; undefined where it is taken. */
function wrongAt(online: object, lamp: object = {}): string | undefined {
  const changed = {
    ...kit,
    online: { ...kit.online, ...online },
    lamps: kit.lamps.map((own, at) => (at === 0 ? { ...own, ...lamp } : own)),
  };
  return kitSchema.safeParse(changed).error?.issues[0]?.path.join(".");
}

describe("how a kit says that it comes online", () => {
  it("takes what ships, and refuses what is wrong at its place", () => {
    expect(wrongAt({})).toBeUndefined();
    expect(wrongAt({ setUp: [] })).toBe("online.setUp");
    expect(wrongAt({ setUp: [{ by: "telepathy", sets: ["wifi"] }] })).toBe("online.setUp.0.by");
    expect(wrongAt({ setUp: [{ by: "hub", sets: [] }] })).toBe("online.setUp.0.sets");
    expect(wrongAt({ service: "a b:80/" })).toBe("online.service");
    expect(wrongAt({ contactMin: -1 })).toBe("online.contactMin");
    expect(wrongAt({ keys: { order: "abc" } })).toBe("online.keys.order");
    expect(wrongAt({ sim: { size: "huge", takesPin: true } })).toBe("online.sim.size");
    expect(wrongAt({ horoscope: "good" })).toBe("online");
    expect(wrongAt({}, { rung: "cellar" })).toBe("lamps.0.rung");
  });

  it("stands on the data sheet with its units", () => {
    const part = kitSheet(kit).find(({ title }) => title === "Online")!;
    const field = (label: string) => part.fields.find((own) => own.label === label);
    expect(field("To the first contact")).toMatchObject({ value: 10, unit: "min" });
    expect(field("Service")?.value).toBe("lowvolt.kits.example");
    expect(field("Old connection removed first")?.value).toBe(true);
  });

  it("has a name for each way to reach a device, and none twice", () => {
    expect(new Set(SET_UP_BY.map(({ name }) => name)).size).toBe(SET_UP_BY.length);
    for (const { online } of shippedKits())
      for (const { by } of online?.setUp ?? []) expect(SET_UP_BY.map(({ id }) => id)).toContain(by);
  });
});
