import { describe, expect, it } from "vitest";
import { resolve } from "@/core/plan/resolve";
import { planned } from "../../../tests/fixtures/planned";
import { wireFindings } from "@/core/job/wireFindings";
import { addressPlan } from "@/core/links/network/addressPlan";
import { airPath, blockOverAirMs, radioOfLink } from "@/core/links/air/airPath";
import { batterySilence } from "@/core/links/bus/batterySilence";
import { judgeCanLog } from "@/core/links/bus/candump";
import { cellularMbAMonth } from "@/core/links/air/cellular";
import { addLink, addMember, changeLink, changeMember, removeMember } from "@/core/links/editLinks";
import { T568B } from "@/core/links/network/ethernet";
import { freeOf, portsOf } from "@/core/links/propose/freePort";
import { ipv4Number, ipv4Text, parsedSubnet, subnetText } from "@/core/ipv4";
import { leadForPorts } from "@/core/links/network/leadForPorts";
import { networkSchema, powerLineSettings, wifiSettings, type Link, type Network } from "@/core/plan/linkSchema";
import { cyclesAtSpeeds, cyclesAtSpreading } from "@/core/links/bus/otherSettings";
import { pollOfLink } from "@/core/links/bus/pollOfLink";
import { radio, radioRequestSchema } from "@/core/links/air/radio";
import { readingAges } from "@/core/links/bus/readingAges";
import { judgedDbm, wifiBudget } from "@/core/links/air/wifi";
import { wallsLossDb, wallsSchema } from "@/core/plan/walls";
import { wiringSchedule } from "@/core/links/wiring/wiringSchedule";
import type { JobDocument } from "@/core/job/jobDocument";
import { changeEquipment } from "@/core/edits/editPlan";
import { jobFromPattern, shippedKits } from "../../../tests/fixtures/shipped";

const barn = jobFromPattern("outbuilding-radio-pair");
const managed = jobFromPattern("energy-manager");
const storage = jobFromPattern("three-phase-storage");

const codes = (job: JobDocument) => wireFindings(resolve(job)).map(({ code }) => code);
const withLinks = (job: JobDocument, links: readonly Link[]): JobDocument => ({ ...job, links: [...links] });
const withNetwork = (job: JobDocument, network: Partial<Network>): JobDocument => ({
  ...job,
  network: { ...job.network, ...network },
});
const linkOf = (job: JobDocument, kind: Link["kind"]) => job.links.find((link) => link.kind === kind)!;

describe("links of every kind", () => {
  it(
    "are proposed: an outbuilding over a radio pair, a module in its slot, contacts, power line, " +
      "cellular, network",
    () => {
      expect(barn.links.map(({ kind, members }) => [kind, members.map(({ item }) => item)])).toEqual([
        ["rs485", ["solar", "air-2"]],
        ["rs485", ["air-1", "grid-meter"]],
        ["radio", ["air-2", "air-1"]],
      ]);
      expect(linkOf(jobFromPattern("battery-of-another-maker"), "usb").members.map(({ item }) => item)).toEqual([
        "hybrid",
        "dongle",
      ]);
      expect(linkOf(jobFromPattern("cascaded-logger"), "dry-contact").members.map(({ item }) => item)).toEqual([
        "receiver",
        "logger",
      ]);
      expect(linkOf(jobFromPattern("metering-gateway"), "power-line").members.map(({ item }) => item)).toEqual([
        "gateway",
        "roof-east",
        "roof-west",
      ]);
      expect(linkOf(jobFromPattern("bluetooth-set-up"), "cellular").members).toEqual([
        { item: "mobile", port: "mobile" },
      ]);
      expect(linkOf(storage, "wifi").members.map(({ item }) => item)).toEqual(["router", "hybrid"]);
    },
  );

  it("give each adapter of a local monitor one inverter", () => {
    expect(
      jobFromPattern("local-monitor")
        .links.filter(({ kind }) => kind === "rs485")
        .map(({ members }) => members.map(({ item }) => item)),
    ).toEqual([
      ["adapter-1", "grid-meter", "solar-1"],
      ["adapter-2", "solar-2"],
    ]);
  });

  it("are added between free ports, joined by more, and lose members without losing their ends", () => {
    const items = resolve(managed).joinable;
    const without = managed.links.filter(({ kind }) => kind !== "rs485");
    const free = freeOf(portsOf(items, "rs485"), without);
    const [client, meter] = [
      free.find(({ device }) => device.id === "em")!,
      free.find(({ device }) => device.id === "charger-1")!,
    ];
    const added = addLink(without, "rs485", client, meter);
    expect(added.at(-1)).toMatchObject({
      id: "rs485-1",
      members: [
        { item: "em", terminator: true },
        { item: "charger-1", terminator: true },
      ],
    });
    const more = addMember(
      added,
      "rs485-1",
      free.find(({ device }) => device.id === "charger-2")!,
    );
    expect(more.at(-1)!.members.map(({ item, terminator }) => [item, terminator])).toEqual([
      ["em", true],
      ["charger-1", false],
      ["charger-2", true],
    ]);
    expect(
      removeMember(more, "rs485-1", 1)
        .at(-1)!
        .members.map(({ item, terminator }) => [item, terminator]),
    ).toEqual([
      ["em", true],
      ["charger-2", true],
    ]);
    expect(removeMember(added, "rs485-1", 1)).toEqual(without);
  });
});

describe("the time through the air", () => {
  it("stands in the cycle of the line that asks, and in the age of the reading", () => {
    const [line] = barn.links;
    const poll = pollOfLink(planned(barn, line!))!;
    const air = airPath(planned(barn, line!))!;
    expect(poll.throughAir).toBe(true);
    expect(poll.costs.map(({ device }) => device)).toEqual(["Grid meter"]);
    const blocks = Math.round(poll.costs[0]!.radioMs / blockOverAirMs(air, 20));
    expect(poll.costs[0]!.radioMs).toBeGreaterThan(blocks * 100);
    expect(readingAges(resolve(barn))[0]).toMatchObject({
      reader: { id: "solar" },
      oldestMs: poll.cycleMs[0],
      way: "over RS-485 and radio",
    });
    expect(pollOfLink(planned(barn, barn.links[1]!))).toBeUndefined();
  });

  it("grows with the spreading factor, and shrinks with the speed of the wire", () => {
    const spreading = cyclesAtSpreading(planned(barn, barn.links[0]!)).map(({ cycleMs }) => cycleMs);
    expect(spreading).toEqual(spreading.toSorted((a, b) => a - b));
    const speeds = cyclesAtSpeeds(planned(barn, barn.links[0]!)).map(({ cycleMs }) => cycleMs);
    expect(speeds).toEqual(speeds.toSorted((a, b) => b - a));
    expect(cyclesAtSpreading(planned(managed, linkOf(managed, "rs485")))).toEqual([]);
  });

  it("is the report interval for a radio transmitter, and next to nothing inside a device", () => {
    const hub = jobFromPattern("diverter-and-hub");
    expect(readingAges(resolve(hub)).map(({ meter, oldestMs }) => [meter.id, oldestMs])).toEqual([
      ["hub", 200],
      ["radio", 10_000],
    ]);
    const farm = jobFromPattern("export-controller");
    const own = shippedKits().find(({ id }) => id === "export-controller-ct")!;
    const meter = { ...farm.site.meters[0]!, id: "own", name: "Controller with inputs", kit: own.id };
    const asking = farm.links.map((link) =>
      link.kind === "rs485"
        ? { ...link, members: [{ ...link.members[0]!, item: "own" }, ...link.members.slice(1)] }
        : link,
    );
    expect(
      readingAges(resolve({ site: { ...farm.site, meters: [meter] }, kits: [...farm.kits, own], links: asking })),
    ).toMatchObject([{ reader: { id: "own" }, oldestMs: 200, way: "inside the device" }]);
  });
});

describe("checks", () => {
  it("find the same address on both sides of a radio pair", () => {
    const twice = changeMember(changeMember(barn.links, "rs485-1", 1, { address: 7 }), "rs485-2", 1, { address: 7 });
    expect(codes(withLinks(barn, twice))).toContain("address-duplicate-air");
  });

  it("find a radio pair that does not reach, and one with little to spare", () => {
    const walls = wallsSchema.parse({ metal: 6, concrete: 4 });
    expect(
      codes(withLinks(barn, changeLink(barn.links, "radio-1", { radio: { exponent: 3.5, walls, marginDb: 10 } }))),
    ).toContain("no-link");
    const settings = radioOfLink(planned(barn, linkOf(barn, "radio")));
    expect(radio({ ...settings, payloadBytes: 20 }).linkMarginDb).toBeGreaterThan(settings.marginDb);
  });

  it("weigh Wi-Fi at the spot, what the phone shows before what was computed", () => {
    const seen = (seenDbm: number) =>
      codes(withLinks(storage, changeLink(storage.links, "wifi-1", { wifi: { ...wifiSettings({}), seenDbm } })));
    expect(seen(-82)).toContain("wifi-weak");
    expect(seen(-70)).toContain("wifi-marginal");
    expect(seen(-55)).not.toContain("wifi-marginal");
    expect(seen(-30)).toContain("wifi-differs");
  });

  it.each<readonly [Partial<Network>, string]>([
    [{ bandsGhz: [5] }, "band-off"],
    [{ oneName: true }, "one-name"],
    [{ security: "open" }, "security"],
    [{ hiddenName: true }, "hidden-name"],
    [{ portal: true }, "portal"],
  ])("hold the router's %o against the device", (network, code) => {
    expect(codes(withNetwork(storage, network))).toContain(code);
    expect(codes(storage)).not.toContain(code);
  });

  it("find what is wrong with a fixed address", () => {
    const found = {
      subnet: "192.168.7.0/24",
      gateway: "192.168.7.1",
      poolFrom: "192.168.7.100",
      poolTo: "192.168.7.199",
    };
    const at = (ipv4: string, other?: string) =>
      codes(
        withNetwork(
          withLinks(
            managed,
            changeMember(changeMember(managed.links, "ethernet-1", 1, { ipv4 }), "ethernet-2", 1, { ipv4: other }),
          ),
          found,
        ),
      );
    expect(at("192.168.7.20")).not.toContain("address-outside");
    expect(at("192.168.8.20")).toContain("address-outside");
    expect(at("192.168.7.255")).toContain("address-reserved");
    expect(at("192.168.7.150")).toContain("address-in-pool");
    expect(at("192.168.7.20", "192.168.7.20")).toContain("address-taken");
    expect(at("192.168.7.1")).toContain("address-taken");
    expect(codes(withNetwork(managed, { ...found, gateway: "192.168.9.1" }))).toContain("gateway-outside");
    expect(codes(withNetwork(jobFromPattern("diverter-and-hub"), { subnet: "192.168.150.0/24" }))).toContain(
      "own-network-overlaps",
    );
  });

  it("propose addresses that are free, inside, and outside the pool", () => {
    const network = networkSchema.parse({
      subnet: "192.168.7.0/24",
      gateway: "192.168.7.1",
      poolFrom: "192.168.7.100",
      poolTo: "192.168.7.202",
    });
    const proposed = addressPlan(resolve({ ...managed, network })).map((device) => device.proposed);
    expect(proposed.slice(0, 2)).toEqual(["192.168.7.203", "192.168.7.204"]);
    expect(new Set(proposed).size).toBe(proposed.length);
  });

  it("count cellular data, power-line units and a gateway's outlet", () => {
    expect(cellularMbAMonth({ reportBytes: 2000, intervalS: 300 })).toBeCloseTo(25.056, 3);
    const mobile = jobFromPattern("cellular-shared-pair");
    expect(
      codes(
        withLinks(
          mobile,
          changeLink(mobile.links, "cellular-1", {
            cellular: { reportBytes: 9000, intervalS: 60, planMb: 100, signalDbm: -118 },
          }),
        ),
      ),
    ).toEqual(expect.arrayContaining(["data-plan", "cellular-weak"]));
    const roof = jobFromPattern("power-line-modules");
    const settings = {
      ...powerLineSettings({}),
      ownOutlet: false,
      throughStrip: true,
      samePhase: false,
      noisyNeighbours: true,
      unitsHeard: 0,
    };
    expect(codes(withLinks(roof, changeLink(roof.links, "power-line-1", { powerLine: settings })))).toEqual(
      expect.arrayContaining(["no-own-outlet", "through-strip", "other-phase", "noisy", "units-missing"]),
    );
  });

  it(
    "hold the topology rules of the kits: chargers all behind the router, one inverter an adapter, " +
      "units on a trunk",
    () => {
      const direct = changeMember(managed.links, "ethernet-3", 0, { item: "em", port: "lan-2" });
      expect(codes(withLinks(managed, direct))).toContain("topology-chargers");
      const monitor = jobFromPattern("local-monitor");
      const crowded = monitor.links
        .map((link) =>
          link.id === "rs485-1"
            ? { ...link, members: [...link.members, { item: "solar-2", port: "bus-in", address: 9 }] }
            : link,
        )
        .filter(({ id }) => id !== "rs485-2");
      expect(codes(withLinks(monitor, crowded))).toContain("topology-adapters");
      const roof = jobFromPattern("power-line-modules");
      const many = {
        ...roof,
        site: {
          ...roof.site,
          nodes: roof.site.nodes.map((node) => (node.id === "solar" ? { ...node, ratedW: 12_000 } : node)),
        },
      };
      expect(codes(many)).toContain("topology-trunk");
    },
  );

  it("say who reads a device twice, who reads nothing, and who comes into the network twice", () => {
    expect(codes(jobFromPattern("local-monitor"))).toContain("asked-by-two");
    expect(codes(jobFromPattern("bluetooth-set-up"))).toContain("nobody-reads");
    const plugged = jobFromPattern("battery-of-another-maker");
    const items = resolve(plugged).joinable;
    const port = (item: string, id: string) =>
      portsOf(items, "ethernet").find((end) => end.device.id === item && end.port.id === id)!;
    expect(
      codes(withLinks(plugged, addLink(plugged.links, "ethernet", port("router", "lan-2"), port("hybrid", "lan")))),
    ).toContain("two-ways-in");
  });

  it("find a network cable that is too long and one that leaves the house", () => {
    expect(codes(withLinks(managed, changeMember(managed.links, "ethernet-1", 1, { distanceM: 120 })))).toContain(
      "too-long",
    );
    expect(codes(withLinks(managed, changeMember(managed.links, "ethernet-1", 1, { distanceM: 95 })))).toContain(
      "long",
    );
    expect(codes(jobFromPattern("meter-on-second-pair"))).toContain("outdoor-cable");
    const moved = changeEquipment("air-2", { place: "barn" })(barn);
    expect(codes(moved)).not.toContain("temperature");
  });
});

describe("the wiring of other links", () => {
  it("names cable, colours, unused cores, terminators and how they are switched", () => {
    const rows = wiringSchedule(resolve(managed));
    expect(rows.find(({ role, cable }) => role === "spare" && cable.startsWith("Shielded"))).toMatchObject({
      colour: "green, yellow",
      notes: ["folded back and sleeved at both ends, or cut flush: one way for the whole site"],
    });
    expect(rows.filter(({ role }) => role === "terminator").map(({ from, notes }) => [from.item, notes[0]])).toEqual([
      ["Roof inverter", "end of the line: switch its terminator on"],
      ["Car charger 2", "end of the line: switch its terminator on"],
    ]);
    expect(rows.find(({ role }) => role === "network-lead")?.colour.split(", ")).toEqual([...T568B]);
  });

  it("joins contact to contact and common to common", () => {
    const grid = jobFromPattern("cascaded-logger");
    const contacts = wiringSchedule(resolve(grid)).filter(
      ({ role, link }) => role.startsWith("dry-contact") && link === "dry-contact-1",
    );
    expect(contacts.map(({ from, to }) => `${from.terminal} ${to!.terminal}`)).toEqual([
      "K1 1",
      "K2 2",
      "K3 3",
      "K4 4",
      "C C",
    ]);
  });

  it("lets no radio path be better than free space nearer than a metre", () => {
    const near = (distanceM: number, exponent: number) =>
      radio(
        radioRequestSchema.parse({
          frequencyMhz: 868,
          txDbm: 14,
          distanceM,
          exponent,
          spreadingFactor: 7,
          bandwidthKhz: 125,
          payloadBytes: 20,
        }),
      ).pathLossDb;
    for (const exponent of [2, 3, 6]) expect(near(0.1, exponent)).toBeCloseTo(near(0.1, 2), 9);
    expect(near(10, 3)).toBeGreaterThan(near(10, 2));
    expect(near(1, 3)).toBe(near(1, 2));
  });

  it("tells whether a lead is right for a bus on plugs", () => {
    const items = resolve(storage).joinable;
    const [a, b] = [
      items.find(({ id }) => id === "hybrid")!.kit.ports.find(({ id }) => id === "bms")!,
      items.find(({ id }) => id === "stack")!.kit.ports.find(({ id }) => id === "can")!,
    ];
    expect(leadForPorts({ endA: [...T568B], endB: [...T568B] }, a, b)).toMatchObject({
      kind: "wrong",
      signals: [{ role: "can-high", fromPin: 1, toPin: 1, wantedPin: 4 }, { role: "can-low" }],
    });
    const endB = [
      "white-green",
      "blue",
      "white-blue",
      "white-orange",
      "orange",
      "green",
      "white-brown",
      "brown",
    ] as const;
    expect(leadForPorts({ endA: [...T568B], endB: [...endB] }, a, b).kind).toBe("right");
  });
});

describe("small parts of links", () => {
  it("read and write addresses and networks", () => {
    expect(ipv4Number("192.168.7.20")).toBe(3_232_237_332);
    expect(ipv4Text(3_232_237_332)).toBe("192.168.7.20");
    expect([
      ipv4Number("192.168.7"),
      ipv4Number("1.2.3.256"),
      ipv4Number("a.b.c.d"),
      parsedSubnet("192.168.7.0"),
      parsedSubnet("192.168.7.0/33"),
    ]).toEqual([undefined, undefined, undefined, undefined, undefined]);
    expect(subnetText(parsedSubnet("192.168.7.9/24")!)).toBe("192.168.7.0/24");
  });

  it("compute a Wi-Fi budget and the name of an access point", () => {
    const walls = wallsSchema.parse({ brick: 2 });
    expect(wallsLossDb(wallsSchema.parse({ brick: 2, floor: 1 }), 2.4)).toBe(27);
    expect(wifiBudget(2.4, 10, walls).rxDbm).toBeCloseTo(-58.2, 1);
    expect([judgedDbm(-67), judgedDbm(-71), judgedDbm(-76)]).toEqual(["good", "marginal", "too weak"]);
  });

  it("put the causes of a silent battery in order by what was seen", () => {
    const expected = [
      { id: 0x6c0, perSecond: 1, name: "Limits", sender: "Stack" },
      { id: 0x6a4, perSecond: 10, name: "Set-points", sender: "Inverter" },
    ];
    const both = Array.from(
      { length: 30 },
      (_, s) => `(${s}.0) can0 6A4#00${s < 10 ? `\n(${s}.2) can0 6C0#00` : ""}`,
    ).join("\n");
    expect(batterySilence(judgeCanLog(both, 500_000, expected), ["Stack"], undefined)[0]?.cause).toBe("model-setting");
    const alone = Array.from({ length: 30 }, (_, s) => `(${s}.0) can0 6C0#00`).join("\n");
    expect(batterySilence(judgeCanLog(alone, 500_000, expected), ["Stack"], undefined)[0]?.cause).toBe(
      "inverter-silent",
    );
    expect(batterySilence(judgeCanLog("no frames", 500_000, expected), ["Stack"], undefined)[0]?.cause).toBe("pins");
    const sum = batterySilence(undefined, [], undefined).reduce((total, { share }) => total + share, 0);
    expect(sum).toBeCloseTo(1, 9);
  });
});
