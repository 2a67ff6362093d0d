import { expect, it } from "vitest";
import { linkNumbers } from "@/core/links/check/linkNumbers";
import { resolve } from "@/core/plan/resolve";
import type { LinkKind } from "@/core/plan/linkSchema";
import { jobFromPattern } from "../../../../tests/fixtures/shipped";

const numbersOf = (pattern: string, kind: LinkKind) => {
  const plan = resolve(jobFromPattern(pattern));
  return new Map(plan.links.filter((link) => link.kind === kind).flatMap((link) => linkNumbers(plan, link)));
};

it("says of an RS-485 line its length beside what its speed allows, and what a multimeter shows", () => {
  const numbers = numbersOf("outbuilding-radio-pair", "rs485");
  expect(numbers.get("Length")).toMatch(/^[\d.]+ m of [\d.]+ m at \d+ baud$/);
  expect(numbers.get("A to B, everything off")).toMatch(/ Ω at the client, .* Ω at the far end: terminators/);
  expect(numbers.get("A to B, idle")).toMatch(/ mV at the client, .* mV at the far end$/);
});

it("says of a CAN line 60 ohm with both ends closed, and its load", () => {
  const numbers = numbersOf("three-phase-storage", "can");
  expect(numbers.get("CANH to CANL, everything off")).toBe("60 Ω");
  expect(numbers.get("Bus load at worst")).toMatch(/ %$/);
});

it("says of a radio pair what arrives, what is needed and what is to spare, and the three agree", () => {
  const numbers = numbersOf("outbuilding-radio-pair", "radio");
  const dbm = (name: string) => Number(numbers.get(name)!.split(" ")[0]);
  expect(Math.abs(dbm("To spare") - (dbm("Arrives") - dbm("Needed")))).toBeLessThan(1);
});

it("says nothing of what cannot be measured", () => {
  expect(numbersOf("battery-of-another-maker", "usb").size).toBe(0);
});
