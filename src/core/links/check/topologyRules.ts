import { plainText, said, together, type Sentence } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import type { Kit, KitKind } from "@/core/kits/kitSchema";
import { meterByCascade } from "@/core/links/meterByCascade";
import { linkFinding } from "@/core/links/check/linkFinding";
import { unitsOf } from "@/core/links/check/linkFindings";
import { askerOf } from "@/core/plan/linkEnds";
import type { KitDevice, ResolvedPlan } from "@/core/plan/resolvedPlan";

type Rule = Kit["topology"][number];

/**
 * Where a plan breaks what its kits say of how they may be joined, as far as it can be told from the links; each with
 * the kit's own reason. Rules without a check are for the eye and stand in the run sheet.
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

interface RuleQuestion {
  readonly plan: ResolvedPlan;
  readonly item: KitDevice;
  readonly most: number | undefined;
  readonly kindOf: (id: string) => KitKind | undefined;
}

type Breach = (question: RuleQuestion) => Sentence | undefined;

/** What breaks a rule at a device, by the rule's check; undefined where nothing does. */
const BREACHES: Readonly<Record<NonNullable<Rule["check"]>, Breach>> = {
  "all-behind-router": ({ plan: { joinable, links }, kindOf }) => {
    const chargers = joinable.filter(({ kit }) => kit.kind === "ev-charger");
    const direct = links.filter(
      ({ kind, members }) =>
        kind === "ethernet" &&
        !members.some(({ item }) => kindOf(item) === "router") &&
        members.some(({ item }) => kindOf(item) === "ev-charger"),
    );
    const names = direct.map(({ name }) => name).join(", ");
    return chargers.length > 1 && direct.length > 0
      ? together(said`${chargers.length} chargers, and ${names} does not go `, "through the router.")
      : undefined;
  },
  "one-hub": ({ plan: { links, joinableById }, kindOf, item }) => {
    const hubs = new Set(
      links
        .filter(({ kind }) => kind === "radio")
        .flatMap(({ members }) => members.slice(0, 1).map((member) => member.item))
        .filter((id) => kindOf(id) !== "radio-pair"),
    );
    return hubs.size > 1 && hubs.has(item.id)
      ? said`${hubs.size} hubs: ${[...hubs].map((id) => joinableById.get(id)?.name ?? id).join(", ")}.`
      : undefined;
  },
  "most-on-line": ({ plan: { links, joinableById }, item, most }) => {
    const line = links.find(
      ({ kind, members }) =>
        (kind === "rs485" || kind === "power-line") && members.some((member) => member.item === item.id),
    );
    // Each circuit on the power line is a trunk of its own; a chain is one line.
    const members = (line?.members ?? []).filter((member) =>
      line?.kind === "power-line" ? member.item === item.id : joinableById.get(member.item)?.kit.id === item.kit.id,
    );
    const count = members.reduce((sum, member) => sum + unitsOf(joinableById.get(member.item)), 0);
    return most !== undefined && count > most ? said`${count} on one line; ${most} at most.` : undefined;
  },
  "first-speaks": ({ plan: { links, joinable, joinableById }, item }) => {
    const ofKit = joinable.filter(({ kit }) => kit.id === item.kit.id);
    const lines = links
      .filter(({ kind }) => kind === "bank")
      .map(({ members }) => members.map((member) => member.item));
    const speakers = links
      .filter(({ kind }) => kind === "can")
      .flatMap(({ members }) => members.map((member) => member.item))
      .filter((id) => ofKit.some((module) => module.id === id));
    // The modules of a bank are those of its line; where there is none yet, all of the kit that are joined to nothing.
    const isJoined = (id: string) => speakers.includes(id) || lines.some((line) => line.includes(id));
    const bankOf = (id: string) =>
      lines.find((line) => line.includes(id)) ??
      ofKit.map((module) => module.id).filter((other) => other === id || !isJoined(other));
    const wrong = speakers.find((id) => bankOf(id)[0] !== id);
    if (wrong === undefined) return undefined;
    const bank = bankOf(wrong);
    return together(
      said`${joinableById.get(wrong)?.name} joins the inverter, and ${joinableById.get(bank[0]!)?.name} is the first `,
      said`of ${bank.length}.`,
    );
  },
  "meter-by-cascade": ({ plan: { joinable, links } }) => {
    const wanted = meterByCascade(joinable);
    const lines = links.filter(
      ({ kind, ends }) => kind === "rs485" && ends.some(({ device }) => device?.kit.kind === "meter"),
    );
    const astray = lines
      .map((line) => ({ line, asker: askerOf(line)?.device }))
      .find(({ asker }) => asker !== undefined && asker.kit.kind !== "radio-pair" && asker.id !== wanted?.id);
    const meter = astray?.line.ends.find(({ device }) => device?.kit.kind === "meter")?.device;
    return astray && wanted && meter
      ? said`${meter.name} is asked by ${astray.asker!.name}; here ${wanted.name} asks it.`
      : undefined;
  },
  "one-device-a-line": ({ plan: { links }, item }) => {
    const own = links
      .filter(({ kind, members }) => kind === "usb" && members.some((member) => member.item === item.id))
      .flatMap(({ members }) => members.map((member) => member.item));
    const crowded = links.find(
      ({ kind, members, ends }) =>
        kind === "rs485" &&
        members.some((member) => own.includes(member.item)) &&
        ends.filter(({ device, port }) => port?.role === "server" && device?.kit.kind !== "meter").length > 1,
    );
    return crowded ? said`${crowded.name} has more than one inverter.` : undefined;
  },
};

function problemOf({ check, most }: Rule, item: KitDevice, plan: ResolvedPlan): Sentence | undefined {
  const kindOf = (id: string) => plan.joinableById.get(id)?.kit.kind;
  return check && BREACHES[check]({ plan, item, most, kindOf });
}
