import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { plainText } from "@/core/sentence";
import { resolve } from "@/core/plan/resolve";
import { planned } from "../../../tests/fixtures/planned";
import type { JobDocument } from "@/core/job/jobDocument";
import { wireFindings } from "@/core/job/wireFindings";
import { addressFaults, addressPlan } from "@/core/links/network/addressPlan";
import { busOfLink } from "@/core/links/bus/busOfLink";
import { can } from "@/core/links/bus/can";
import { canOfLink } from "@/core/links/bus/canOfLink";
import { linkMap } from "@/core/links/linkMap";
import { linkKindSchema, networkSchema, type Link } from "@/core/plan/linkSchema";
import { readMultimeter } from "@/core/links/bus/multimeter";
import { cyclesAtSpeeds } from "@/core/links/bus/otherSettings";
import { pollOfLink } from "@/core/links/bus/pollOfLink";
import { proposeLinks } from "@/core/links/propose/proposeLinks";
import { readingAges } from "@/core/links/bus/readingAges";
import { rs485 } from "@/core/links/bus/rs485";
import { rs485Model } from "@/core/links/bus/rs485Model";
import { wiringSchedule } from "@/core/links/wiring/wiringSchedule";
import { setWay } from "@/core/edits/editPlan";
import { FORGOTTEN } from "../../../tests/fixtures/forgotten";
import { jobFromPattern, shippedPatterns } from "../../../tests/fixtures/shipped";

const PATTERNS = shippedPatterns().map(({ id }) => id);

const codes = (job: JobDocument) => wireFindings(resolve(job)).map(({ code }) => code);
const ofKind = ({ links }: JobDocument, kind: Link["kind"]) => links.filter((link) => link.kind === kind);

describe("the links of every kind of site", () => {
  it.each(PATTERNS)(
    "%s: wiring rows are whole, join role to role, and put at most two wires under one terminal",
    (id) => {
      const { site, kits, links } = jobFromPattern(id);
      const wires = new Map<string, number>();
      for (const row of wiringSchedule(resolve({ site, kits, links }))) {
        const texts = [
          row.colour,
          row.pair,
          row.cable,
          row.from.item,
          row.from.port,
          row.from.terminal,
          row.to?.item ?? "",
          row.to?.terminal ?? "",
          ...row.notes,
        ];
        for (const text of texts) expect(text).not.toMatch(FORGOTTEN);
        expect(row.colour.length + row.notes.length).toBeGreaterThan(0);
        if (row.role === "spare" || row.role === "terminator" || row.role === "shield" || row.role === "network-lead")
          continue;
        for (const end of [row.from, row.to]) {
          if (!end) continue;
          const key = `${end.item} ${end.port} ${end.terminal}`;
          wires.set(key, (wires.get(key) ?? 0) + 1);
        }
      }
      for (const [terminal, count] of wires) expect([terminal, count <= 2]).toEqual([terminal, true]);
    },
  );

  it.each(PATTERNS)("%s: a link that is taken out comes back as it was when links are proposed anew", (id) => {
    const { site, kits, links } = jobFromPattern(id);
    expect(proposeLinks(resolve({ site, kits, links: [] }))).toEqual(links);
    expect(new Set(links.map((link) => link.id)).size).toBe(links.length);
    for (const link of links) {
      expect(linkKindSchema.options).toContain(link.kind);
      expect(new Set(link.members.map(({ item, port }) => `${item} ${port}`)).size).toBe(link.members.length);
    }
  });

  it.each(PATTERNS)("%s: no port but Wi-Fi's and the air's has two links that are not one chain", (id) => {
    const { links } = jobFromPattern(id);
    const uses = links
      .filter(({ kind }) => kind === "rs485" || kind === "can" || kind === "ethernet" || kind === "dry-contact")
      .flatMap((link) => link.members.map(({ item, port }) => ({ key: `${item} ${port}`, link: link.id })));
    for (const { key, link } of uses)
      expect(uses.filter((other) => other.key === key).every((other) => other.link === link)).toBe(true);
  });

  it.each(PATTERNS)("%s: every finding says what, where and what to do, under an id of its own", (id) => {
    const findings = wireFindings(resolve(jobFromPattern(id)));
    expect(new Set(findings.map((finding) => finding.id)).size).toBe(findings.length);
    for (const { title, detail, cure, source } of findings)
      for (const text of [title, plainText(detail), plainText(cure), source]) {
        expect(text.trim().length).toBeGreaterThan(2);
        expect(text).not.toMatch(FORGOTTEN);
      }
  });

  it.each(PATTERNS)(
    "%s: buses idle high enough, end in two terminators, and answer slower with each dead device",
    (id) => {
      const job = jobFromPattern(id);
      for (const link of ofKind(job, "rs485")) {
        const bus = busOfLink(planned(job, link));
        if (!bus) continue;
        const answer = rs485(bus);
        expect(answer.lengthM).toBeLessThan(answer.maxLengthM);
        expect(answer.worstCycleMs).toEqual(answer.worstCycleMs.toSorted((a, b) => a - b));
        expect(link.members.filter(({ terminator }) => terminator).length).toBeLessThanOrEqual(2);
        const model = rs485Model(bus);
        const asPlanned = model.probes.map((probe) => ({ ...probe, value: model.expected([], probe).most }));
        expect(readMultimeter(model, asPlanned).kind).toBe("as-planned");
      }
      for (const link of ofKind(job, "can")) {
        const bus = canOfLink(planned(job, link));
        if (!bus) continue;
        const { marginNs, busLoadPct, resistanceOffOhm } = can(bus);
        expect(marginNs).toBeGreaterThan(0);
        expect(busLoadPct).toBeLessThan(50);
        expect(resistanceOffOhm).toBe(60);
      }
    },
  );

  it.each(PATTERNS)(
    "%s: a reading is no younger than a cycle of its line, and never younger at a slower speed",
    (id) => {
      const { site, kits, links } = jobFromPattern(id);
      for (const { oldestMs, oneDeadMs, way } of readingAges(resolve({ site, kits, links }))) {
        expect(oldestMs).toBeGreaterThan(0);
        expect(oneDeadMs).toBeGreaterThanOrEqual(oldestMs);
        expect(way).not.toMatch(FORGOTTEN);
      }
      for (const link of links) {
        const poll = pollOfLink(planned({ site, kits, links }, link));
        if (!poll) continue;
        const speeds = cyclesAtSpeeds(planned({ site, kits, links }, link));
        expect(speeds.map(({ cycleMs }) => cycleMs)).toEqual(
          speeds.map(({ cycleMs }) => cycleMs).toSorted((a, b) => b - a),
        );
        expect(poll.costs.reduce((sum, { aliveMs }) => sum + aliveMs, 0)).toBeCloseTo(poll.cycleMs[0], 6);
      }
    },
  );

  it.each(PATTERNS)("%s: proposed addresses are free, and right when they are typed", (id) => {
    const { site, kits, links } = jobFromPattern(id);
    const network = networkSchema.parse({
      subnet: "192.168.7.0/24",
      gateway: "192.168.7.1",
      poolFrom: "192.168.7.20",
      poolTo: "192.168.7.180",
    });
    const plan = addressPlan(resolve({ site, kits, links, network }));
    const proposed = plan.flatMap((device) => device.proposed ?? []);
    expect(new Set(proposed).size).toBe(proposed.length);
    const typed = links.map((link) => ({
      ...link,
      members: link.members.map((member, at) => {
        const own = plan.find((device) => device.link.id === link.id && device.at === at);
        return own?.proposed === undefined ? member : { ...member, ipv4: own.proposed };
      }),
    }));
    const again = addressPlan(resolve({ site, kits, links: typed, network }));
    for (const device of again.filter(({ ipv4 }) => ipv4 !== undefined))
      expect(addressFaults(device, again, network).filter(({ severity }) => severity !== "note")).toEqual([]);
  });

  it.each(PATTERNS)("%s: the map has each device once, in its place, and a line for each link between two", (id) => {
    const { site, kits, links } = jobFromPattern(id);
    const map = linkMap(resolve({ site, kits, links }));
    const text = JSON.stringify(map);
    expect(text).not.toMatch(/NaN|undefined|Infinity/);
    for (const link of links.filter(({ members }) => members.length > 1))
      for (const { item } of link.members) expect(text).toContain(`"${item}"`);
  });
});

describe("an order along a line", () => {
  it("changes neither the time of a cycle nor what is asked, whichever way the devices stand", () => {
    const farm = jobFromPattern("export-controller");
    const [line] = ofKind(farm, "rs485");
    const whole = pollOfLink(planned(farm, line!))!;
    fc.assert(
      fc.property(fc.shuffledSubarray(line!.members.slice(1), { minLength: line!.members.length - 1 }), (servers) => {
        const turned = { ...line!, members: [line!.members[0]!, ...servers] };
        const links = farm.links.map((link) => (link.id === turned.id ? turned : link));
        const poll = pollOfLink(planned({ ...farm, links }, turned))!;
        expect(poll.cycleMs[0]).toBeCloseTo(whole.cycleMs[0], 6);
        expect(poll.costs.map(({ device }) => device).toSorted()).toEqual(
          whole.costs.map(({ device }) => device).toSorted(),
        );
      }),
    );
  });
});

describe("checks of radio, contacts and cellular", () => {
  it("find a transmitter out of range, and a way that is longer than its pairing window", () => {
    const cottage = jobFromPattern("diverter-and-hub");
    const radio = ofKind(cottage, "radio").flatMap(({ members }) => members.map(({ item }) => item));
    const placeOf = (id: string) =>
      [...cottage.site.nodes, ...cottage.site.meters, ...cottage.site.equipment].find((item) => item.id === id)!.place!;
    const [hub, ...others] = radio.map(placeOf);
    const apart = (way: { readonly walkMin: number; readonly straightM: number; readonly cableM: number }) =>
      others.filter((place) => place !== hub).reduce((job, place) => setWay(hub!, place, way)(job), cottage);
    expect(codes(apart({ walkMin: 1, straightM: 5, cableM: 6 }))).not.toContain("radio-range");
    const far = codes(apart({ walkMin: 6, straightM: 400, cableM: 500 }));
    expect(far).toContain("radio-range");
    expect(far).toContain("pairing-walk");
  });

  it("find two ends of contacts that are alike, and contacts without an input", () => {
    const grid = jobFromPattern("cascaded-logger");
    const [contacts] = ofKind(grid, "dry-contact");
    const [giver, taker] = contacts!.members;
    const endsOf = (job: JobDocument) => resolve(job).joinable.map(({ id, kit }) => ({ id, kit: kit.id }));
    const kitOf = (item: string) => endsOf(grid).find(({ id }) => id === item)!.kit;
    const alike = {
      ...grid,
      kits: grid.kits.map((kit) =>
        kit.id === kitOf(taker!.item)
          ? {
              ...kit,
              ports: kit.ports.map((port) => (port.id === taker!.port ? { ...port, role: "server" as const } : port)),
            }
          : kit,
      ),
    };
    expect(codes(grid)).not.toContain("contact-roles");
    expect(codes(alike)).toContain("contact-roles");
    const fewer = {
      ...grid,
      kits: grid.kits.map((kit) =>
        kit.id === kitOf(taker!.item)
          ? {
              ...kit,
              ports: kit.ports.map((port) =>
                port.id === taker!.port
                  ? { ...port, terminals: port.terminals.filter(({ role }, at) => role !== "dry-contact" || at < 2) }
                  : port,
              ),
            }
          : kit,
      ),
    };
    expect(codes(fewer)).toContain("contacts-unused");
    expect(giver!.item).not.toBe(taker!.item);
  });

  it("say that the SIM comes before power until a signal is written down", () => {
    const mobile = jobFromPattern("bluetooth-set-up");
    const [link] = ofKind(mobile, "cellular");
    expect(codes(mobile)).toContain("sim-first");
    const seen = {
      ...mobile,
      links: mobile.links.map((own) =>
        own.id === link!.id
          ? { ...own, cellular: { reportBytes: 800, intervalS: 300, planMb: 500, signalDbm: -90 } }
          : own,
      ),
    };
    expect(codes(seen as JobDocument)).not.toContain("sim-first");
    expect(codes(seen as JobDocument)).not.toContain("cellular-weak");
  });
});
