import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { proposeLinks } from "@/core/links/propose/proposeLinks";
import { batteryFindings } from "@/core/links/check/batteryFindings";
import { topologyFindings } from "@/core/links/check/topologyRules";
import type { Link } from "@/core/plan/linkSchema";
import { resolve } from "@/core/plan/resolve";
import { anyDoubled, withSecond } from "../../../../tests/fixtures/secondOfAKit";
import { jobFromPattern } from "../../../../tests/fixtures/shipped";

/** Each of these has one end at one plug or pair of screws: a second line there is none that anybody could lay. */
const ONE_LINE_A_PORT: readonly Link["kind"][] = ["rs485", "can", "bank", "dry-contact", "usb", "ethernet"];

/** Ports with their links, of the kinds that one plug has one of. */
function usesOf(links: readonly Link[]): ReadonlyMap<string, readonly string[]> {
  const uses = new Map<string, string[]>();
  for (const { id, kind, members } of links)
    if (ONE_LINE_A_PORT.includes(kind))
      for (const { item, port } of members) uses.set(`${item} ${port}`, [...(uses.get(`${item} ${port}`) ?? []), id]);
  return uses;
}

describe("Links proposed for a second device of the same kit", () => {
  it("put no port on two lines", () => {
    fc.assert(
      fc.property(anyDoubled, ({ links }) => {
        expect([...usesOf(links)].filter(([, own]) => new Set(own).size > 1)).toEqual([]);
      }),
      { numRuns: 100 },
    );
  });

  it("join ports that are there, of their own kind, and nothing with itself", () => {
    fc.assert(
      fc.property(anyDoubled, (job) => {
        const { joinable } = resolve(job);
        for (const { kind, members } of job.links) {
          for (const { item, port } of members) {
            const own = joinable.find(({ id }) => id === item)?.kit.ports.find(({ id }) => id === port);
            expect(own?.kind ?? `no ${port} at ${item}`).toBe(kind);
          }
          expect(new Set(members.map(({ item, port }) => `${item} ${port}`)).size).toBe(members.length);
        }
      }),
    );
  });

  it("give each on a line of addresses one of its own", () => {
    fc.assert(
      fc.property(anyDoubled, ({ links }) => {
        for (const { kind, members } of links) {
          const addresses = members.flatMap(({ address }) => address ?? []);
          if (kind === "rs485" || kind === "bank") expect(new Set(addresses).size).toBe(addresses.length);
        }
      }),
    );
  });

  it("give two inverters a battery each, and leave the second without where there is one", () => {
    const job = jobFromPattern("three-phase-storage");
    const at = (id: string) =>
      [...job.site.nodes, ...job.site.equipment]
        .filter(({ kit }) => kit !== undefined)
        .findIndex((own) => own.id === id);
    const canOf = (which: readonly string[]) =>
      proposeLinks(resolve(withSecond(job, which.map(at))))
        .filter(({ kind }) => kind === "can")
        .map(({ members }) => members.map(({ item }) => item));
    const [[inverter, battery]] = canOf([]) as [[string, string]];
    expect(canOf([inverter, battery])).toEqual([
      [inverter, battery],
      [`${inverter}-again`, `${battery}-again`],
    ]);
    expect(canOf([inverter])).toEqual([[inverter, battery]]);
  });

  it("bring each device in at the router that stands beside it, and a second router at the first", () => {
    const job = jobFromPattern("outbuilding-radio-pair");
    const router = job.site.equipment.find(({ kit }) => kit?.includes("router"))!;
    const far = job.site.places.find(({ id }) => id !== router.place)!;
    const inFar = [...job.site.nodes, ...job.site.equipment]
      .filter(({ place }) => place === far.id)
      .map(({ id }) => id);
    const second = { ...router, id: "second-router", place: far.id };
    const site = { ...job.site, equipment: [...job.site.equipment, second] };
    const network = proposeLinks(resolve({ ...job, site, links: [] })).filter(({ kind }) =>
      ["ethernet", "wifi"].includes(kind),
    );
    const routerOf = (id: string) =>
      network
        .filter(({ members }) => members.some(({ item }) => item === id))
        .map(({ members }) => members.find(({ item }) => item !== id)!.item);
    expect(routerOf("second-router")).toContain(router.id);
    const joined = inFar.flatMap(routerOf);
    expect(joined.length).toBeGreaterThan(0);
    expect(new Set(joined)).toEqual(new Set(["second-router"]));
  });

  it("are nothing that Gormit itself finds fault with, but for more batteries than an inverter takes", () => {
    fc.assert(
      fc.property(anyDoubled, (job) => {
        const plan = resolve(job);
        const codes = [...batteryFindings(plan), ...topologyFindings(plan)].map(({ code }) => code);
        expect(codes.filter((code) => code !== "bank-too-large")).toEqual([]);
      }),
      { numRuns: 100 },
    );
  });

  it("share the modules of a bank between two inverters, each with a line of its own", () => {
    const job = jobFromPattern("battery-of-another-maker");
    const all = [...job.site.nodes, ...job.site.equipment].filter(({ kit }) => kit !== undefined).map((_, at) => at);
    const links = proposeLinks(resolve(withSecond(job, all)));
    const banks = links.filter(({ kind }) => kind === "bank");
    const heads = links.filter(({ kind }) => kind === "can").map(({ members }) => members[1]!.item);
    expect(banks.map(({ members }) => members.length)).toEqual([2, 2]);
    expect(banks.map(({ members }) => members[0]!.item)).toEqual(heads);
    for (const { members } of banks) expect(members.map(({ address }) => address)).toEqual([1, 2]);
    const doubled = { ...withSecond(job, all), links };
    const codes = (of: readonly Link[]) => batteryFindings(resolve({ ...doubled, links: of })).map(({ code }) => code);
    expect(codes(links)).toEqual([]);
    const sameAddress = links.map((link) =>
      link === banks[1] ? { ...link, members: link.members.map((member) => ({ ...member, address: 1 })) } : link,
    );
    expect(codes(sameAddress)).toEqual(["bank-address-twice"]);
    expect(codes(links.filter((link) => link !== banks[1]))).toEqual(["bank-module-loose"]);
    const rules = (of: readonly Link[]) => topologyFindings(resolve({ ...doubled, links: of }));
    expect(rules(links)).toEqual([]);
    const [, secondModule] = banks[1]!.members;
    const byTheSecond = links.map((link) =>
      link.kind === "can" && link.members[1]!.item === heads[1]
        ? { ...link, members: [link.members[0]!, { ...link.members[1]!, item: secondModule!.item }] }
        : link,
    );
    expect(rules(byTheSecond).map(({ code }) => code)).toEqual(["topology-master"]);
  });
});
