import { describe, expect, it } from "vitest";
import { kitDoubts } from "@/core/kits/kitDoubts";
import { kitSchema } from "@/core/kits/kitSchema";
import { kitSheet, sheetText, type SheetField } from "@/core/kits/kitSheet";
import { readYaml } from "@/core/kits/readYaml";
import { withKitValue } from "@/core/kits/withKitValue";
import { kitText, shippedKits } from "../../../tests/fixtures/shipped";

const kits = shippedKits();
const fieldsOf = (id: string) =>
  kitSheet(kits.find((kit) => kit.id === id)!).flatMap(({ title, fields }) => fields.map((own) => ({ title, ...own })));

/** Another good value of a field, told from its schema's bounds by trying. */
function otherValues({ input, value }: SheetField): readonly (string | number | boolean)[] {
  switch (input.kind) {
    case "number":
      return typeof value === "number" ? [value + 1, value / 2, 1] : [1, 2];
    case "choice":
      return input.options;
    case "yes-no":
      return [value !== true];
    case "text":
      return ["Another text"];
    case "file":
      return [];
  }
}

describe("a kit as a data sheet", () => {
  it("begins with what it is rated for, with units", () => {
    const [first] = fieldsOf("pv-single-3k6");
    expect(first).toMatchObject({ title: "Ratings", label: "Continuous AC power", unit: "W", value: 3600 });
    expect(sheetText(first!.value, first!.unit)).toBe("3.60 kW");
  });

  it.each(kits.map(({ id }) => id))("of %s has every plain value once, with words and no code for a label", (id) => {
    const fields = fieldsOf(id);
    expect(new Set(fields.map(({ path }) => path.join("."))).size).toBe(fields.length);
    for (const { label, value, unit } of fields) {
      expect(label).toMatch(/^[A-Z]/);
      expect(label).not.toMatch(/[a-z][A-Z]/);
      if (value !== undefined) expect(sheetText(value, unit)).not.toMatch(/[{}[\]]|undefined/);
    }
  });

  // Every fifth has all the parts that there are between them.
  it.each(kits.map(({ id }) => id).filter((_, at) => at % 5 === 0))(
    "of %s is edited field by field, and the file stays good or says where",
    (id) => {
      const text = kitText(id);
      for (const field of fieldsOf(id)) {
        for (const value of otherValues(field)) {
          const changed = readYaml(withKitValue(text, field.path, value), kitSchema);
          if (changed.kind === "ok") {
            const now = kitSheet(changed.value).flatMap(({ fields }) => fields);
            expect(now.find(({ path }) => path.join() === field.path.join())?.value).toBe(value);
          } else expect(changed.problems[0]!.path[0]).toBe(field.path[0]);
        }
      }
    },
  );

  it("keeps comments and everything else of the text, and takes a value out", () => {
    const text = "# checked on the roof\nratings: {powerW: 3000, phases: [1]} # label\nlamps: []\n";
    expect(withKitValue(text, ["ratings", "powerW"], 3600)).toBe(text.replace("3000", "3600"));
    expect(withKitValue(text, ["ratings", "powerW"], undefined)).toBe(text.replace("powerW: 3000, ", ""));
    expect(withKitValue("ratings: {", ["ratings", "powerW"], 1)).toBe("ratings: {");
  });
});

describe("doubts about a kit", () => {
  it("are none about those that ship with Gormit", () => {
    expect(kits.flatMap((kit) => kitDoubts(kit))).toEqual([]);
  });

  it("name a secondary that is rather a primary", () => {
    const text = kitText("meter-three-5a").replace("secondary: {value: 5, unit: A}", "secondary: {value: 40, unit: A}");
    const read = readYaml(text, kitSchema);
    expect(read.kind === "ok" && kitDoubts(read.value)).toEqual([
      {
        path: ["metering", "inputs", 0, "secondary"],
        message: "40 A at the secondary: CTs give 5 A at most as a rule; is it the primary?",
      },
    ]);
  });
});
