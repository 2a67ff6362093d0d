import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { planned } from "../../../tests/fixtures/planned";
import { resolve } from "@/core/plan/resolve";
import { jobDocumentSchema } from "@/core/job/jobDocument";
import { changeLinks } from "@/core/job/changeLinks";
import { wireFindings } from "@/core/job/wireFindings";
import { busOfLink } from "@/core/links/bus/busOfLink";
import { changeLink, changeMember, moveMember, removeLink } from "@/core/links/editLinks";
import { cableBetweenM } from "@/core/plan/linkEnds";
import type { KitPort } from "@/core/plan/resolvedPlan";
import { linkMap } from "@/core/links/linkMap";
import { proposeLinks } from "@/core/links/propose/proposeLinks";
import { readerOf } from "@/core/links/check/readerOf";
import { siteLinkFindings } from "@/core/links/check/siteLinkFindings";
import { rs485 } from "@/core/links/bus/rs485";
import { wiringSchedule } from "@/core/links/wiring/wiringSchedule";
import { materials } from "@/core/visit/materials";
import { removeNode, setWay } from "@/core/edits/editPlan";
import { jobFromPattern, shippedKits, shippedPatterns } from "../../../tests/fixtures/shipped";

const storage = jobFromPattern("three-phase-storage");
const farm = jobFromPattern("export-controller");
const ofBuses = (links: typeof farm.links) => links.filter(({ kind }) => kind === "rs485" || kind === "can");

describe("proposed links", () => {
  it.each(shippedPatterns().map(({ id }) => id))("of %s hold together, stop nothing and are in the job", (id) => {
    const job = jobFromPattern(id);
    expect(job.links).toEqual(proposeLinks(resolve(job)));
    expect(jobDocumentSchema.safeParse(job).success).toBe(true);
    expect(wireFindings(resolve(job)).filter((finding) => finding.severity !== "note")).toEqual([]);
    for (const { whole } of resolve(job).links) expect(whole).toBeDefined();
  });

  it("give each meter and inverter to who should read it, and each battery to its inverter", () => {
    expect(ofBuses(storage.links).map((link) => [link.kind, link.members.map((member) => member.item)])).toEqual([
      ["rs485", ["hybrid", "grid-meter"]],
      ["can", ["hybrid", "stack"]],
    ]);
    expect(ofBuses(farm.links).map((link) => link.members.map((member) => `${member.item}.${member.port}`))).toEqual([
      ["controller.inverters", "solar-1.bus-in", "solar-2.bus-in", "solar-3.bus-in"],
      ["controller.meter", "grid-meter.bus"],
    ]);
  });

  it("number equal kits apart and terminate both ends only", () => {
    const [chain] = farm.links;
    expect(chain!.members.map((member) => member.address)).toEqual([undefined, 1, 2, 3]);
    expect(chain!.members.map((member) => member.terminator ?? false)).toEqual([true, false, false, true]);
  });

  it("take the order with least cable", () => {
    const { site, kits, links } = jobFromPattern("energy-manager");
    const items = resolve({ site, kits, links: [] }).joinable;
    const lengthOf = (ids: readonly string[]) =>
      ids.slice(1).reduce(
        (sum, id, at) =>
          sum +
          cableBetweenM(
            site,
            items.find((item) => item.id === ids[at])!,
            items.find((item) => item.id === id)!,
          )!,
        0,
      );
    const [client, ...servers] = links[0]!.members.map((member) => member.item);
    const best = lengthOf([client!, ...servers]);
    fc.assert(
      fc.property(fc.shuffledSubarray(servers, { minLength: servers.length }), (order) => {
        expect(lengthOf([client!, ...order])).toBeGreaterThanOrEqual(best - 1e-9);
      }),
    );
  });

  it("lay no wire where no cable goes", () => {
    const cut = setWay("plant", "wall", { walkMin: 1 })(storage);
    expect(proposeLinks(resolve(cut)).filter((link) => link.kind === "rs485")).toEqual([]);
    expect(siteLinkFindings(resolve({ ...cut, links: storage.links })).map((finding) => finding.code)).toContain(
      "no-cable",
    );
  });
});

describe("the wiring schedule", () => {
  const rs485Ports = shippedKits().flatMap((kit) =>
    kit.ports
      .filter((port) => port.kind === "rs485" && port.terminals.some((terminal) => terminal.role === "non-inverting"))
      .map((port) => ({ kit, port })),
  );

  it("joins equal roles, whatever their letters, for every pair of kits", () => {
    fc.assert(
      fc.property(fc.constantFrom(...rs485Ports), fc.constantFrom(...rs485Ports), (a, b) => {
        const site = {
          ...storage.site,
          equipment: [
            { id: "a", name: "A", kit: a.kit.id },
            { id: "b", name: "B", kit: b.kit.id },
          ],
        };
        const kits = a.kit.id === b.kit.id ? [a.kit] : [a.kit, b.kit];
        const rows = wiringSchedule(
          resolve({
            site,
            kits,
            links: [
              {
                id: "x",
                kind: "rs485",
                name: "X",
                members: [
                  { item: "a", port: a.port.id },
                  { item: "b", port: b.port.id },
                ],
              },
            ],
          }),
        );
        const roleOf = (port: KitPort, label: string, pin: number | undefined) =>
          port.terminals.find((terminal) => terminal.label === label && terminal.pin === pin)?.role;
        const cores = rows.filter((row) => row.role !== "shield" && row.role !== "spare");
        expect(cores.length).toBeGreaterThanOrEqual(2);
        for (const row of cores)
          expect([
            roleOf(a.port, row.from.terminal, row.from.pin),
            roleOf(b.port, row.to!.terminal, row.to!.pin),
          ]).toEqual([row.role, row.role]);
        expect(rows.filter((row) => row.role === "shield")).toHaveLength(1);
      }),
    );
  });

  it("says where letters mean the opposite and where a straight patch lead would be wrong", () => {
    const rows = wiringSchedule(resolve(farm));
    expect(rows.find((row) => row.role === "non-inverting")).toMatchObject({
      from: { terminal: "A" },
      to: { terminal: "B" },
      notes: ["the letters mean the opposite here: A goes to B"],
      pair: "pair 1",
    });
    const can = wiringSchedule(resolve(storage)).find((row) => row.role === "can-high");
    expect(can?.notes).toEqual(["pin 1 to pin 4: a straight patch lead would be wrong"]);
  });

  it("puts a twin ferrule where two wires share a terminal", () => {
    const { site, kits, links } = jobFromPattern("cascaded-logger");
    const sensor = wiringSchedule(resolve({ site, kits, links })).filter((row) => row.to?.item === "Power sensor");
    expect(sensor.filter(({ role }) => role !== "spare").map((row) => row.to!.ferrule)).toEqual([
      "twin 2 × 0.25 mm²",
      "twin 2 × 0.25 mm²",
    ]);
  });

  it("bonds the shield at one end, on the terminal that a kit has for it", () => {
    const { site, kits, links } = jobFromPattern("energy-manager");
    const shields = wiringSchedule(resolve({ site, kits, links })).filter((row) => row.role === "shield");
    expect(shields[0]).toMatchObject({
      from: { item: "Energy manager", terminal: "S" },
      to: undefined,
      notes: ["bonded here only; cut back and insulated at Roof inverter"],
    });
  });
});

describe("editing links", () => {
  it("keeps terminators at the ends when a device moves, and works its cable out anew", () => {
    const typed = changeMember(farm.links, "rs485-1", 3, { distanceM: 80 });
    const moved = moveMember(typed, "rs485-1", 3, 2);
    expect(moved[0]!.members.map((member) => [member.item, member.terminator, member.distanceM])).toEqual([
      ["controller", true, undefined],
      ["solar-1", false, undefined],
      ["solar-3", false, undefined],
      ["solar-2", true, undefined],
    ]);
    expect(moveMember(farm.links, "rs485-1", 0, -1)).toEqual(farm.links);
  });

  it("changes the bus that is computed with", () => {
    const faster = changeLink(farm.links, "rs485-1", { baud: 115_200 });
    const cycle = (links: typeof farm.links) => rs485(busOfLink(planned({ ...farm, links }, links[0]!))!).pollCycleMs;
    expect(cycle(faster)).toBeLessThan(cycle(farm.links) / 2);
    expect(
      siteLinkFindings(resolve({ ...farm, links: changeMember(farm.links, "rs485-1", 2, { address: 1 }) })).filter(
        (finding) => finding.severity === "stop",
      ),
    ).toMatchObject([{ code: "address-duplicate" }]);
  });

  it("drops what went from the plan, and says when none is planned", () => {
    const without = removeNode("solar-3")(removeNode("solar-2")(farm));
    expect(without.links[0]!.members.map((member) => member.item)).toEqual(["controller", "solar-1"]);
    expect(removeNode("solar-1")(without).links.map((link) => link.id)).toEqual(["rs485-2", "ethernet-1"]);
    expect(
      wireFindings(
        resolve({
          ...farm,
          links: farm.links.reduce<typeof farm.links>((left, { id }) => removeLink(left, id), farm.links),
        }),
      ),
    ).toMatchObject([{ code: "no-links", severity: "note" }]);
  });

  it("refuses a port in two links and a member that the plan has not", () => {
    const paths = (links: object) =>
      jobDocumentSchema.safeParse({ ...farm, links }).error?.issues.map((issue) => issue.path.join("."));
    expect(paths([...farm.links, { ...farm.links[1]!, id: "again" }])).toContain(
      `links.${farm.links.length}.members.0.port`,
    );
    expect(
      paths([{ ...farm.links[1]!, members: [farm.links[1]!.members[0]!, { item: "ghost", port: "bus" }] }]),
    ).toEqual(["links.0.members.1.item"]);
    expect(paths([{ ...farm.links[1]!, members: farm.links[1]!.members.slice(1) }])).toEqual(["links.0.members"]);
  });
});

describe("the link map", () => {
  it.each(shippedPatterns().map(({ id }) => id))(
    "of %s puts every linked device at its place, and nothing on anything",
    (id) => {
      const job = jobFromPattern(id);
      const map = linkMap(resolve(job));
      expect(new Set(map.nodes.map((node) => node.id))).toEqual(
        new Set(job.links.flatMap((link) => link.members.map((member) => member.item))),
      );
      expect(new Set(map.nodes.map((node) => `${node.x} ${node.y}`)).size).toBe(map.nodes.length);
      for (const node of map.nodes) {
        const column = map.places.find((place) => node.x > place.x && node.x < place.x + place.width)!;
        const device = resolve(job).joinableById.get(node.id)!;
        expect(column.id).toBe(device.place?.id ?? "");
      }
      expect(map.edges).toHaveLength(job.links.reduce((sum, link) => sum + link.members.length - 1, 0));
    },
  );
});

describe("what belongs to a line", () => {
  const measured = {
    ...farm,
    busReadings: [
      { link: "rs485-1", what: "ohm" as const, where: "first" as const, value: 60 },
      { link: "rs485-2", what: "ohm" as const, where: "first" as const, value: 119 },
    ],
  };

  it("is lost with it: readings go where the order changed, and stay where only a value did", () => {
    expect(
      changeLinks(measured, (links) => moveMember(links, "rs485-1", 1, 2)).busReadings.map(({ link }) => link),
    ).toEqual(["rs485-2"]);
    expect(changeLinks(measured, (links) => changeLink(links, "rs485-1", { baud: 19_200 })).busReadings).toHaveLength(
      2,
    );
    expect(changeLinks(measured, (links) => removeLink(links, "rs485-2")).busReadings.map(({ link }) => link)).toEqual([
      "rs485-1",
    ]);
  });

  it("are its cores: a tick stays with the two ends it joins, whatever the line is called", () => {
    const ids = (links: typeof farm.links) => new Set(wiringSchedule(resolve({ ...farm, links })).map((row) => row.id));
    expect(ids(farm.links.map((link) => ({ ...link, id: `other-${link.id}` })))).toEqual(ids(farm.links));
    const moved = ids(moveMember(farm.links, "rs485-1", 2, 3));
    const kept = [...ids(farm.links)].filter((id) => moved.has(id));
    expect(kept.some((id) => id.startsWith("controller.inverters>solar-1.bus-in"))).toBe(true);
    expect(kept.some((id) => id.includes("solar-3.bus-in") && id.startsWith("solar-2"))).toBe(false);
  });

  it("leaves a device with two sockets by the other one, and asks for a splitter where there is one socket", () => {
    const onward = wiringSchedule(resolve(farm)).find(
      (row) => row.from.item === "Inverter 1" && row.role === "inverting",
    );
    expect(onward).toMatchObject({
      from: { port: "OUT", terminal: "A" },
      to: { item: "Inverter 2", port: "IN" },
      notes: [],
    });
    const oneSocket = farm.kits.map((kit) =>
      kit.id === "pv-three-10k" ? { ...kit, ports: kit.ports.filter((port) => port.id !== "bus-out") } : kit,
    );
    expect(
      wiringSchedule(resolve({ ...farm, kits: oneSocket })).find((row) => row.from.item === "Inverter 1")?.notes,
    ).toContain("Inverter 1 has one socket: take a splitter for the lead that goes on");
  });

  it("is read by its client, with wire, radio and network ranked by the way", () => {
    expect(readerOf(resolve(storage), resolve(storage).meters[0]!)).toMatchObject({
      reader: { id: "hybrid" },
      options: [
        { kind: "wire", possible: true },
        { kind: "radio-pair", possible: true },
        { kind: "network", possible: false },
      ],
    });
    const cut = setWay("plant", "wall", { walkMin: 1, straightM: 40 })(storage);
    expect(readerOf(resolve(cut), resolve(cut).meters[0]!)?.options[0]).toMatchObject({ kind: "radio-pair" });
    const together = {
      ...storage.site,
      nodes: storage.site.nodes.map((node) => (node.id === "hybrid" ? { ...node, place: "plant" } : node)),
    };
    const near = resolve({ ...storage, site: together });
    expect(readerOf(near, near.meters[0]!)).toBeUndefined();
  });

  it("says what to bring for it: its cable, its ferrules, and a terminator where a port has none", () => {
    const item = (id: string, job = farm) => materials(job).find((line) => line.id === id);
    expect(item("terminator")?.why).toBe("Grid meter has none of its own");
    expect(item("ferrule:twin 2 × 0.25 mm²", jobFromPattern("cascaded-logger"))?.quantity).toBe(2);
    expect(item("network-cable")?.why).toContain("to Export controller");
    expect(item("can-cable", storage)?.why).toBe("to Battery stack 2 m");
    expect(item("data-cable", { ...farm, links: [] })).toBeUndefined();
  });
});
