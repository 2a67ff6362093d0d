import { readdirSync, readFileSync } from "node:fs";
import path from "node:path";
import { describe, expect, it } from "vitest";
import { jobDocumentSchema } from "@/core/job/jobDocument";
import type { Kit } from "@/core/kits/kitSchema";
import { shippedKits } from "../../../tests/fixtures/shipped";

/** The numbering of docs/formats.md: none of these may have been remembered from a device that exists. */
const REGISTERS = { first: 7000, blockSize: 20 };
const CAN = { first: 0x6a0, last: 0x6df };
const ACCESS_POINT = /^192\.168\.(15\d|16\d|17\d)\.1$/;
const SERIAL = /^\^GK[A-Z]\[0-9\]\{7\}\$$/;
const LAMPS: Readonly<Record<string, readonly string[]>> = {
  green: ["steady", "fast-blink"],
  white: ["slow-blink"],
  orange: ["double-blink", "steady", "counted-blink"],
  red: ["steady"],
  blue: ["alternating"],
};
/** A word of a menu as a person says it: no abbreviation, no capitals in the middle. */
const MENU_WORD = /^([A-Z]{1,3} |[A-Z])[a-z]+( [a-z0-9]+)*$/;
const ROOT = path.join(import.meta.dirname, "../../..");

const kits = shippedKits();
const demoKits = readdirSync(path.join(ROOT, "demo")).flatMap((file) => {
  const job = jobDocumentSchema.parse(JSON.parse(readFileSync(path.join(ROOT, "demo", file), "utf8")));
  return job.kits.map((kit) => [`${file}: ${kit.id}`, kit] as const);
});

describe.each([...kits.map((kit) => [kit.id, kit] as const), ...demoKits])(
  "the numbers of %s are invented",
  (_, kit) => {
    it("in its registers, frames, network, serial, lamps and menu", () => {
      for (const register of kit.registers) {
        expect(register.address).toBeGreaterThanOrEqual(REGISTERS.first);
        expect(blockOf(register.address)).toBe(blockOf(kit.registers[0]!.address));
      }
      for (const { id } of kit.can?.frames ?? []) {
        expect(id).toBeGreaterThanOrEqual(CAN.first);
        expect(id).toBeLessThanOrEqual(CAN.last);
      }
      const { accessPoint, outbound = [] } = kit.network ?? {};
      if (accessPoint) {
        expect(accessPoint.name).toBe("kit-{serial:6}");
        expect(accessPoint.address).toMatch(ACCESS_POINT);
      }
      for (const { port } of outbound) expect(port === 443 || (port >= 47_000 && port <= 47_099)).toBe(true);
      if (kit.serialPattern !== undefined) expect(kit.serialPattern).toMatch(SERIAL);
      for (const { colour, pattern } of kit.lamps) expect(LAMPS[colour]).toContain(pattern);
      for (const { field } of kit.metering?.menu ?? []) expect(field).toMatch(MENU_WORD);
    });
  },
);

describe("the numbering", () => {
  it("gives each kit a block of registers, an access point and a letter of its own", () => {
    const own = (value: (kit: Kit) => unknown) =>
      kits.map(value).filter((entry): entry is string | number => entry !== undefined);
    for (const values of [
      own((kit) => (kit.registers[0] ? blockOf(kit.registers[0].address) : undefined)),
      own((kit) => kit.network?.accessPoint?.address),
      own((kit) => kit.serialPattern),
    ]) {
      expect(values.length).toBeGreaterThan(5);
      expect(new Set(values).size).toBe(values.length);
    }
  });

  it(
    "is kept by every example, placeholder and sentence of the program: no other CAN line or access " +
      "point stands there",
    () => {
      const sources = readdirSync(path.join(ROOT, "src"), { recursive: true, encoding: "utf8" })
        .filter((file) => /\.tsx?$/.test(file) && file !== path.join("core", "kits", "inventions.test.ts"))
        .map((file) => readFileSync(path.join(ROOT, "src", file), "utf8"));
      const lines = sources.flatMap((source) => [...source.matchAll(/\bcan\d ([0-9A-Fa-f]{3}|[0-9A-Fa-f]{8})#/g)]);
      expect(lines.length).toBeGreaterThan(3);
      // With its highest bits set it is no identifier, but what the controller itself says of the bus (SocketCAN).
      const ids = lines.map(([, id]) => parseInt(id!, 16)).filter((id) => id < 0x20000000);
      const outside = ids.filter((id) => id < CAN.first || id > CAN.last);
      // 0x7FF is the largest identifier that there is, and stands where just that is tried.
      expect(outside.filter((id) => id !== 0x7ff)).toEqual([]);
      const privateAddresses = sources.flatMap((source) => [...source.matchAll(/\b(10|172|192)(\.\d{1,3}){3}\b/g)]);
      const ours = /^192\.168\.(7|8|9|15\d|16\d|17\d)\.\d+$/;
      expect(privateAddresses.map(([address]) => address).filter((address) => !ours.test(address))).toEqual([]);
    },
  );
});

function blockOf(address: number): number {
  return Math.floor((address - REGISTERS.first) / REGISTERS.blockSize);
}
