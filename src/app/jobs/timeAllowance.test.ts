import { describe, expect, it } from "vitest";
import { timeAllowance } from "@/app/jobs/timeAllowance";

describe("An allowance of time", () => {
  it("is used up by what is spent, and fills up again by its share of the time that goes by", () => {
    let now = 1_000;
    const allowance = timeAllowance(2_000, 0.2, () => now);
    expect(allowance.isLeft()).toBe(true);
    allowance.spend(2_500);
    expect(allowance.isLeft()).toBe(false);
    now += 2_500;
    expect(allowance.isLeft()).toBe(false);
    now += 1;
    expect(allowance.isLeft()).toBe(true);
  });

  it("holds no more after a long rest than it did at first", () => {
    let now = 0;
    const allowance = timeAllowance(100, 0.5, () => now);
    now = 1_000_000;
    allowance.spend(100);
    expect(allowance.isLeft()).toBe(false);
  });

  it("lets no more than its share and what it held be spent, however often it is asked", () => {
    let now = 0;
    let spent = 0;
    const allowance = timeAllowance(1_000, 0.25, () => now);
    for (; now < 60_000; now += 7)
      if (allowance.isLeft()) {
        allowance.spend(40);
        spent += 40;
      }
    expect(spent).toBeLessThanOrEqual(1_000 + 0.25 * 60_000 + 40);
    expect(spent).toBeGreaterThanOrEqual(0.25 * 60_000);
  });
});
