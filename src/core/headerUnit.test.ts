import { describe, expect, it } from "vitest";
import { headerUnit } from "@/core/headerUnit";

describe("the unit in the name of a column", () => {
  it.each([
    ["Grid power (kW)", "kW"],
    ["grid_kw", "kW"],
    ["P1 [W]", "W"],
    ["P_W", "W"],
    ["exportW", "W"],
    ["Export, watts", "W"],
    ["Watt", "W"],
    ["Energy kWh", "kWh"],
    ["import_kwh_total", "kWh"],
  ])("of %s is %s", (name, unit) => {
    expect(headerUnit(name)).toBe(unit);
  });

  it.each(["Grid", "Power", "Water heater", "West roof", "W_roof_Wh", "energy (Wh)", "L1", "", "Window"])(
    "is asked of %s",
    (name) => {
      expect(headerUnit(name)).toBeUndefined();
    },
  );
});
