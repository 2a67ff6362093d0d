import { describe, expect, it } from "vitest";
import { copyOfKit } from "@/core/kits/copyOfKit";
import { kitSchema, type Kit } from "@/core/kits/kitSchema";
import { kitValues } from "@/core/kits/kitValues";
import { readYaml } from "@/core/kits/readYaml";
import { kitText, shippedKits } from "../../../tests/fixtures/shipped";

const kits = shippedKits();

describe("the kits that ship", () => {
  it("are at least 24, of every kind, each with an id of its own that its file is named by", () => {
    expect(kits.length).toBeGreaterThanOrEqual(24);
    expect(new Set(kits.map((kit) => kit.id)).size).toBe(kits.length);
    expect(new Set(kits.map((kit) => kit.kind))).toEqual(new Set(kitSchema.shape.kind.options));
    for (const kit of kits) expect(kitText(kit.id)).toContain(`id: ${kit.id}\n`);
  });

  it(
    "hold the variety of the trade: both arrow methods, both meanings of positive, every ratio form, both " +
      "families, opposite letters",
    () => {
      const inputs = kits.flatMap((kit) => kit.metering?.inputs ?? []);
      expect(new Set(inputs.map((input) => input.arrow)).size).toBe(2);
      expect(new Set(inputs.map((input) => input.positive)).size).toBe(2);
      expect(new Set(inputs.map((input) => input.ratio.kind))).toEqual(new Set(["ratio", "primary", "list"]));
      expect(new Set(inputs.map((input) => input.secondary.unit)).size).toBeGreaterThanOrEqual(3);
      const rolesOfA = new Set(
        kits.flatMap((kit) =>
          kit.ports.flatMap((port) =>
            port.terminals.filter((terminal) => terminal.label === "A").map((terminal) => terminal.role),
          ),
        ),
      );
      expect(rolesOfA).toEqual(new Set(["non-inverting", "inverting"]));
      const orders = new Set(kits.flatMap((kit) => kit.powerUp.map((rule) => `${rule.first} ${rule.then}`)));
      expect(orders.has("ac dc") && orders.has("dc ac")).toBe(true);
      expect(kits.some((kit) => kit.lamps.some((lamp) => lamp.pattern.endsWith("blink")))).toBe(true);
    },
  );

  it("say where every value came from, and what most of the metering is used for", () => {
    for (const kit of kits) for (const value of kitValues(kit)) expect(value.source).not.toBe("");
    const metering = kits.flatMap(kitValues).filter((value) => value.path.startsWith("metering.inputs"));
    expect(metering.filter((value) => value.usedFor !== "").length / metering.length).toBeGreaterThan(0.8);
  });
});

describe("kitValues", () => {
  it("gives a value its own source where the kit has one", () => {
    const kit = kits.find((candidate) => candidate.id === "pv-single-3k6")!;
    const values = kitValues(kit);
    expect(values.find((value) => value.path === "timers.reconnectDelayS")?.source).toBe(
      kit.sources["timers.reconnectDelayS"],
    );
    expect(values.find((value) => value.path === "timers.bootS")?.source).toBe(kit.source);
    expect(values.find((value) => value.path === "ratings.powerW")).toMatchObject({
      value: "3600",
      usedFor: expect.stringContaining("Plan") as string,
    });
  });
});

describe("readYaml", () => {
  it("names every problem of a bad kit with its line and path", () => {
    const text =
      kitText("meter-single-two-ct")
        .replace("classPct: 1", "classPct: high")
        .replace("kind: meter", "kind: clock")
        .replace("address: 1,", "address: 300,") + "hue: red\n";
    const outcome = readYaml(text, kitSchema);
    if (outcome.kind === "ok") throw new Error("it is bad");
    const lineOf = (part: string) => text.split("\n").findIndex((line) => line.includes(part)) + 1;
    expect(outcome.problems.map(({ line, path }) => [line, path.join(".")])).toEqual([
      [lineOf("kind: clock"), "kind"],
      [lineOf("classPct: high"), "metering.classPct"],
      [lineOf("address: 300"), "serial.address"],
      [lineOf("hue: red"), ""],
    ]);
    expect(outcome.problems[3]!.message).toContain("hue");
  });

  it.each([
    ["a: [1", "this is not YAML"],
    ["a: 1\na: 2", "this is not YAML"],
    ["", "expected object"],
    ["- 1", "expected object"],
    [`x: ${"y".repeat(200_001)}`, "longer than"],
  ])("refuses %s", (text, message) => {
    const outcome = readYaml(text, kitSchema);
    expect(outcome.kind === "bad-file" && outcome.problems.map((problem) => problem.message).join("\n")).toContain(
      message,
    );
  });

  it("does not let aliases blow a small text up", () => {
    const bomb = [
      "a: &a [1,1,1,1,1,1,1,1,1,1]",
      ...Array.from(
        { length: 8 },
        (_, at) =>
          `${String.fromCharCode(98 + at)}: &${String.fromCharCode(98 + at)} ` +
          `[${Array.from({ length: 10 }, () => `*${String.fromCharCode(97 + at)}`).join(",")}]`,
      ),
    ].join("\n");
    expect(readYaml(bomb, kitSchema).kind).toBe("bad-file");
  });

  it("finds what a kit says against itself", () => {
    const twice = readYaml(kitText("pv-single-3k6").replace("id: com-2", "id: com-1"), kitSchema);
    expect(twice.kind === "bad-file" && twice.problems).toMatchObject([
      { path: ["ports", 2, "id"], message: "the port com-1 stands twice" },
    ]);
    const blind = readYaml(kitText("ct-split-50ma-16mm").replace(/clamp: .*\n/, ""), kitSchema);
    expect(blind.kind === "bad-file" && blind.problems).toMatchObject([{ path: ["clamp"] }]);
    const claims = readYaml(kitText("pv-single-3k6").replace("timers.reconnectDelayS:", "can.lossS:"), kitSchema);
    expect(claims.kind === "bad-file" && claims.problems[0]!.message).toContain('no value "can.lossS"');
  });
});

describe("copyOfKit", () => {
  it("gives a good kit under a free id, as its text stood", () => {
    const kit = kits.find((candidate) => candidate.id === "meter-three-5a")!;
    const text = `# checked on the roof\n${kitText(kit.id)}`;
    const copy = copyOfKit({ kit, text, origin: "shipped" }, [kit.id, "meter-three-5a-copy"]);
    const outcome = readYaml(copy, kitSchema);
    expect(copy).toContain("# checked on the roof");
    expect(outcome.kind === "ok" && outcome.value).toEqual<Kit>({
      ...kit,
      id: "meter-three-5a-copy-2",
      name: `${kit.name} (copy)`,
    });
  });
});
