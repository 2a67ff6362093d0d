import fc from "fast-check";
import { describe, expect, it, vi } from "vitest";
import { ipv4Number, ipv4Text, isInside, parsedSubnet } from "@/core/ipv4";
import { addressPlan } from "@/core/links/network/addressPlan";
import type { JobDocument } from "@/core/job/jobDocument";
import { resolve } from "@/core/plan/resolve";
import { jobFromPattern, shippedPatterns } from "../../../../tests/fixtures/shipped";

/** Of the patterns the one with most devices in its network. */
const job = shippedPatterns()
  .map(({ id }) => jobFromPattern(id))
  .reduce((most, own) => (addressPlan(resolve(own)).length > addressPlan(resolve(most)).length ? own : most));
const planned = (network: Partial<JobDocument["network"]>, links = job.links) =>
  addressPlan(resolve({ ...job, links, network: { ...job.network, ...network } }));
const inNetwork = planned({}).length;

/** A network of any usual size, its router's address, and what the router gives by itself. */
const anyNetwork = fc
  .record({
    prefix: fc.integer({ min: 22, max: 28 }),
    base: fc.nat(200),
    router: fc.nat(),
    from: fc.nat(),
    length: fc.nat(),
  })
  .map(({ prefix, base, router, from, length }) => {
    const size = 2 ** (32 - prefix) - 2;
    const first = ipv4Number(`192.168.${base & ~3}.0`)! + 1;
    const at = (offset: number) => ipv4Text(first + (offset % size));
    // Always some are left that the router does not give.
    const poolFrom = from % (size / 2);
    return {
      subnet: `192.168.${base & ~3}.0/${prefix}`,
      gateway: at(router),
      poolFrom: at(poolFrom),
      poolTo: at(poolFrom + (length % Math.floor(size / 2 - 2))),
    };
  });

describe("Fixed addresses that are proposed", () => {
  it("are free, inside the network, beside what the router gives, and one a device, in a network of any size", () => {
    expect(inNetwork).toBeGreaterThan(2);
    fc.assert(
      fc.property(anyNetwork, (network) => {
        const proposed = planned(network).map((own) => own.proposed);
        const subnet = parsedSubnet(network.subnet)!;
        expect(proposed).not.toContain(undefined);
        expect(new Set(proposed).size).toBe(inNetwork);
        for (const text of proposed) {
          const address = ipv4Number(text!)!;
          expect(isInside(address, subnet)).toBe(true);
          expect([subnet.first, subnet.last]).not.toContain(address);
          expect(text).not.toBe(network.gateway);
          expect(address >= ipv4Number(network.poolFrom)! && address <= ipv4Number(network.poolTo)!).toBe(false);
        }
      }),
    );
  });

  it("begin above what routers give first, where the network reaches so far", () => {
    const [first] = planned({ subnet: "192.168.7.0/24", poolFrom: "192.168.7.100", poolTo: "192.168.7.199" });
    expect(first?.proposed).toBe("192.168.7.200");
  });

  it("are none where the network is not known, or a device has one that was typed", () => {
    expect(planned({ subnet: undefined }).map(({ proposed }) => proposed)).toEqual(Array(inNetwork).fill(undefined));
    const typed = job.links.map((link) =>
      link.kind === "ethernet" || link.kind === "wifi"
        ? { ...link, members: link.members.map((member) => ({ ...member, ipv4: "192.168.7.201" })) }
        : link,
    );
    for (const { ipv4, proposed } of planned({ subnet: "192.168.7.0/24" }, typed))
      expect([ipv4, proposed]).toEqual(["192.168.7.201", undefined]);
  });

  it("are none where every address is taken: nothing is made up", () => {
    const full = { subnet: "192.168.7.0/29", poolFrom: "192.168.7.1", poolTo: "192.168.7.6" };
    expect(planned(full).map(({ proposed }) => proposed)).toEqual(Array(inNetwork).fill(undefined));
  });

  it("are found beside a pool of millions without a look at each, and none where it is all of them", () => {
    const subnet = "192.168.7.0/8";
    const { first, last } = parsedSubnet(subnet)!;
    const poolTo = (address: number) => ({ subnet, poolFrom: ipv4Text(first + 1), poolTo: ipv4Text(address) });
    expect(planned(poolTo(last - 50)).map(({ proposed }) => proposed)).not.toContain(undefined);
    const has = vi.spyOn(Set.prototype, "has");
    expect(planned(poolTo(last - 1)).some(({ proposed }) => proposed !== undefined)).toBe(false);
    expect(has.mock.calls.length).toBeLessThan(100_000);
    has.mockRestore();
  });
});
