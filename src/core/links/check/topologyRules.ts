import { plainText, said, together, type Sentence } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import type { Kit } from "@/core/kits/kitSchema";
import { linkFinding } from "@/core/links/check/linkFinding";
import { unitsOf } from "@/core/links/check/linkFindings";
import type { KitDevice, ResolvedPlan } from "@/core/plan/resolvedPlan";

type Rule = Kit["topology"][number];

/**
 * Where a plan breaks what its kits say of how they may be joined, as far as it can be told from the links; each with
 * the
 * kit's own reason. Rules without a check are for the eye and stand in the run sheet.
 *
 * For example: Two chargers, one straight at the energy manager and one behind the router: `topology` at `fix`.
 */
export function topologyFindings(plan: ResolvedPlan): readonly Finding[] {
  const seen = new Set<string>();
  return plan.joinable.flatMap((item) =>
    item.kit.topology.flatMap((rule): readonly Finding[] => {
      const problem = problemOf(rule, item, plan);
      // A rule of a kit that stands twice is broken once.
      if (problem === undefined || seen.has(`${item.kit.id} ${rule.rule} ${plainText(problem)}`)) return [];
      seen.add(`${item.kit.id} ${rule.rule} ${plainText(problem)}`);
      return [
        linkFinding(`Kit ${item.kit.id}, topology ${rule.rule}: ${rule.why}`)(
          `topology-${rule.rule}`,
          "fix",
          item.name,
          "Joined in a way that the kit does not allow",
          problem,
          rule.text,
        ),
      ];
    }),
  );
}

function problemOf(
  { check, most }: Rule,
  item: KitDevice,
  { links, joinable, joinableById }: ResolvedPlan,
): Sentence | undefined {
  const of = (id: string) => joinableById.get(id);
  switch (check) {
    case undefined:
      return undefined;
    case "all-behind-router": {
      const chargers = joinable.filter(({ kit }) => kit.kind === "ev-charger");
      const direct = links.filter(
        (link) =>
          link.kind === "ethernet" &&
          !link.members.some((member) => of(member.item)?.kit.kind === "router") &&
          link.members.some((member) => of(member.item)?.kit.kind === "ev-charger"),
      );
      return chargers.length > 1 && direct.length > 0
        ? together(
            said`${chargers.length} chargers, and ${direct.map(({ name }) => name).join(", ")} does not go `,
            "through the router.",
          )
        : undefined;
    }
    case "one-hub": {
      const hubs = new Set(
        links
          .filter((link) => link.kind === "radio")
          .flatMap((link) => link.members.slice(0, 1).map(({ item: id }) => id))
          .filter((id) => of(id)?.kit.kind !== "radio-pair"),
      );
      return hubs.size > 1 && hubs.has(item.id)
        ? said`${hubs.size} hubs: ${[...hubs].map((id) => of(id)?.name ?? id).join(", ")}.`
        : undefined;
    }
    case "most-on-line": {
      const line = links.find(
        (link) =>
          (link.kind === "rs485" || link.kind === "power-line") &&
          link.members.some((member) => member.item === item.id),
      );
      // Each circuit on the power line is a trunk of its own; a chain is one line.
      const members = (line?.members ?? []).filter((member) =>
        line?.kind === "power-line" ? member.item === item.id : of(member.item)?.kit.id === item.kit.id,
      );
      const count = members.reduce((sum, member) => sum + unitsOf(of(member.item)), 0);
      return most !== undefined && count > most ? said`${count} on one line; ${most} at most.` : undefined;
    }
    case "first-speaks": {
      const bank = joinable.filter(({ kit }) => kit.id === item.kit.id);
      const spoken = links.find(
        (link) => link.kind === "can" && link.members.some((member) => bank.some(({ id }) => id === member.item)),
      );
      const speaker = spoken?.members.find((member) => bank.some(({ id }) => id === member.item));
      return bank.length > 1 && speaker && speaker.item !== bank[0]!.id
        ? said`${of(speaker.item)?.name} joins the inverter, and ${bank[0]!.name} is the first of ${bank.length}.`
        : undefined;
    }
    case "one-device-a-line": {
      const own = links
        .filter((link) => link.kind === "usb" && link.members.some((member) => member.item === item.id))
        .flatMap((link) => link.members.map(({ item: id }) => id));
      const crowded = links.find(
        (link) =>
          link.kind === "rs485" &&
          link.members.some((member) => own.includes(member.item)) &&
          link.ends.filter(({ device, port }) => port?.role === "server" && device?.kit.kind !== "meter").length > 1,
      );
      return crowded ? said`${crowded.name} has more than one inverter.` : undefined;
    }
  }
}
