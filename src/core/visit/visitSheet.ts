import { said, together } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import { findCycle } from "@/core/visit/schedule/constraintGraph";
import { isOnMains, isSolar, visitContext, type VisitContext, type VisitPlan } from "@/core/visit/visitContext";
import type { KitDevice } from "@/core/plan/resolvedPlan";
import { VISIT_PHASES, type Need, type VisitStep, type StepDraft, type StepTag } from "@/core/visit/visitStep";
import type { VisitRule } from "@/core/visit/visitRule";
import { ORDER_RULES, TOUCHES } from "@/core/visit/rules/orderRules";
import { CLOSING_RULES } from "@/core/visit/rules/closingRules";
import { CONTACT_RULES } from "@/core/visit/rules/contactRules";
import { ENERGISE_RULES } from "@/core/visit/rules/energiseRules";
import { PROVING_RULES } from "@/core/visit/rules/provingRules";
import { SET_UP_RULES } from "@/core/visit/rules/setUpRules";
import { TEST_RULES } from "@/core/visit/rules/testRules";
import { deadGates, SITE_RULES } from "@/core/visit/rules/siteRules";
import { SERVICE_RULES } from "@/core/visit/rules/serviceRules";
import { belongs } from "@/core/visit/visitScope";
import { WIRING_RULES } from "@/core/visit/rules/wiringRules";
import { joined } from "@/core/words";

/** The steps of a visit in an order that keeps every constraint, and what is wrong with the rules. */
export interface VisitSheet {
  readonly steps: readonly VisitStep[];
  readonly findings: readonly Finding[];
}

/**
 * The run sheet of a job: steps from the rules, their needs from the order rules and from each kit's own power-up
 * order, in
 * one order that keeps all of them and follows the stages where it may. Rules in conflict are a finding that names
 * them; the
 * last of them is then left out, so that there is a sheet.
 *
 * For example: Of a pattern with a hybrid and a battery: battery polarity before the battery's breaker, both before
 * the proof.
 */
export function visitSheet(plan: VisitPlan): VisitSheet {
  const context = visitContext(plan);
  const drafts = allDrafts(context);
  const ids = uniqueIds(drafts);
  const needs = drafts.map((): Need[] => []);
  const indexOf = new Map(ids.map((id, at) => [id, at]));
  const byTag = new Map<string, number[]>();
  drafts.forEach(({ tag }, at) => byTag.set(tag, [...(byTag.get(tag) ?? []), at]));
  const of = (tags: readonly StepTag[]) => tags.flatMap((tag) => byTag.get(tag) ?? []);
  for (const rule of ORDER_RULES) {
    for (const then of of(rule.then))
      for (const first of of(rule.first)) {
        if (
          first !== then &&
          isSame(rule.same, drafts[first]!, drafts[then]!) &&
          (rule.where?.(context, drafts[first]!, drafts[then]!) ?? true)
        )
          needs[then]!.push({ step: ids[first]!, rule: rule.id });
      }
  }
  for (const { first, then, rule } of kitOrders(context, drafts)) needs[then]!.push({ step: ids[first]!, rule });
  const findings = [...unplacedFindings(context, drafts), ...withoutCircles(needs, ids, indexOf, drafts)];
  const steps = drafts.map((draft, at): VisitStep => ({
    place: undefined,
    about: undefined,
    content: [],
    caution: undefined,
    evidence: { kind: "tick" },
    wantsPhoto: false,
    waitMin: 0,
    people: 1,
    waiting: undefined,
    isGate: false,
    school: undefined,
    ...draft,
    id: ids[at]!,
    needs: reduced(needs[at]!),
    window: draft.window
      ? { after: `${draft.window.after}:${draft.about}`, withinMin: draft.window.withinMin }
      : undefined,
  }));
  return { steps: inOrder(steps), findings };
}

/** By kind and subject, not by words. */
function uniqueIds(drafts: readonly StepDraft[]): readonly string[] {
  const seen = new Map<string, number>();
  return drafts.map(({ tag, about }) => {
    const base = about === undefined ? tag : `${tag}:${about}`;
    const count = (seen.get(base) ?? 0) + 1;
    seen.set(base, count);
    return count === 1 ? base : `${base}:${count}`;
  });
}

/** The steps of all rules that belong to this visit; dead is proved wherever one of them touches a conductor. */
function allDrafts(context: VisitContext): readonly (StepDraft & { readonly rule: string })[] {
  const of = (rules: readonly VisitRule[]) =>
    rules.flatMap((rule) =>
      rule
        .yields(context)
        .filter((draft) => belongs(context.scope, draft))
        .map((draft) => ({ ...draft, rule: rule.id })),
    );
  const wiring = of(WIRING_RULES);
  const touched = wiring.filter(({ tag }) => TOUCHES.includes(tag)).map(({ place }) => place);
  const gates = deadGates(context, touched).filter((draft) => belongs(context.scope, draft));
  return [
    ...of(SITE_RULES),
    ...gates.map((gate) => ({ ...gate, rule: "prove-dead" })),
    ...wiring,
    ...of([
      ...TEST_RULES,
      ...ENERGISE_RULES,
      ...SET_UP_RULES,
      ...SERVICE_RULES,
      ...PROVING_RULES,
      ...CONTACT_RULES,
      ...CLOSING_RULES,
    ]),
  ];
}

/** Where nobody said where something is, no gate can be its own: all of them hold it up, and it is said. */
function unplacedFindings({ worked, site }: VisitContext, drafts: readonly StepDraft[]): readonly Finding[] {
  const about = new Set(
    drafts.filter(({ tag, place }) => TOUCHES.includes(tag) && place === undefined).map((draft) => draft.about),
  );
  const names = [...worked, ...site.meters]
    .filter(({ id }, at, all) => about.has(id) && all.findIndex((other) => other.id === id) === at)
    .map(({ name }) => name);
  if (names.length === 0) return [];
  return [
    {
      id: "place-missing",
      code: "place-missing",
      severity: "stop",
      stage: "visit",
      subject: { kind: "job" },
      title: "Where something hangs is not said",
      detail: together(
        said`${joined(names)}: without a place, nobody knows where to prove dead for `,
        said`${names.length === 1 ? "it" : "them"}. The sheet asks for it everywhere.`,
      ),
      cure: "Name the places under Plan, Places, and say there or at the device where each hangs",
      source: "Places of the plan",
    },
  ];
}

function isSame(same: "device" | "place" | "site", a: StepDraft, b: StepDraft): boolean {
  switch (same) {
    case "site":
      return true;
    // Whoever does something nobody knows where comes past every gate.
    case "place":
      return b.place === undefined || a.place === b.place;
    case "device":
      return a.about !== undefined && a.about === b.about;
  }
}

/** What stands for each source of a kit's power-up order. */
function kitOrders(
  { worked }: VisitContext,
  drafts: readonly StepDraft[],
): readonly { readonly first: number; readonly then: number; readonly rule: string }[] {
  const known = new Map<string, number[]>();
  for (const [which, { tag, about }] of drafts.entries()) {
    const key = `${tag}:${about}`;
    const same = known.get(key);
    if (same) same.push(which);
    else known.set(key, [which]);
  }
  const at = (tag: StepTag, about: string): readonly number[] => known.get(`${tag}:${about}`) ?? [];
  const partners = (item: KitDevice, kind: "can" | "rs485" | "ethernet") =>
    item.links.filter((link) => link.kind === kind || (kind === "ethernet" && link.kind === "wifi"));
  const stepsFor = (item: KitDevice, source: KitDevice["kit"]["powerUp"][number]["first"]): readonly number[] => {
    switch (source) {
      case "ac":
        return isOnMains(item)
          ? at("on-ac", item.id)
          : item.kit.kind === "energy-manager"
            ? worked
                .filter((other) => isOnMains(other) && other.id !== item.id && other.kit.kind !== "battery-inverter")
                .flatMap((other) => at("on-ac", other.id))
            : [];
      case "dc":
        return isSolar(item)
          ? at("on-dc", item.id)
          : [...partners(item, "can"), ...partners(item, "rs485")].flatMap((link) =>
              link.members.flatMap((member) => at("on-dc", member.item)),
            );
      case "battery": {
        const own = [...partners(item, "can"), ...partners(item, "rs485")].flatMap((link) =>
          link.members.flatMap((member) => at("on-battery", member.item)),
        );
        return own.length > 0 || item.kit.kind !== "energy-manager"
          ? own
          : worked.filter(({ kit }) => kit.kind === "battery-inverter").flatMap((other) => at("on-ac", other.id));
      }
      case "meter":
        return partners(item, "rs485").flatMap((link) => link.members.flatMap((member) => at("taps", member.item)));
      case "network":
        return partners(item, "ethernet").flatMap((link) => at("wire-link", link.id));
      case "this":
        return [
          ...at("on", item.id),
          ...at("on-battery", item.id),
          ...at("on-generator", item.id),
          ...(isOnMains(item) ? at("on-ac", item.id) : []),
        ].slice(0, 1);
    }
  };
  return worked.flatMap((item) =>
    item.kit.powerUp.flatMap(({ first, then }) => {
      const behind = stepsFor(item, then);
      return stepsFor(item, first).flatMap((a) =>
        behind.flatMap((b) => (a === b ? [] : [{ first: a, then: b, rule: `${item.name}: ${first} before ${then}` }])),
      );
    }),
  );
}

/** Leave out the last rule of each circle, and say which rules were in conflict. */
function withoutCircles(
  needs: Need[][],
  ids: readonly string[],
  indexOf: ReadonlyMap<string, number>,
  drafts: readonly StepDraft[],
): readonly Finding[] {
  const findings: Finding[] = [];
  for (;;) {
    const cycle = findCycle(needs.map((own) => own.map(({ step }) => indexOf.get(step)!)));
    if (!cycle) return findings;
    const edges = cycle.map((step, at) => {
      const next = cycle[(at + 1) % cycle.length]!;
      return { step, need: needs[step]!.find((need) => indexOf.get(need.step) === next)! };
    });
    // A kit's own order gives way before a safety rule does.
    const drop = edges.toSorted((a, b) => Number(isOwn(a.need.rule)) - Number(isOwn(b.need.rule)))[0]!;
    const rules = [...new Set(edges.map(({ need }) => need.rule))];
    needs[drop.step] = needs[drop.step]!.filter((need) => need !== drop.need);
    findings.push({
      id: `visit-cycle:${rules.join("|")}:${cycle.map((step) => ids[step]).join("|")}`.slice(0, 280),
      code: "visit-cycle",
      severity: "fix",
      stage: "visit",
      subject: { kind: "step", step: ids[cycle[0]!]! },
      title: "Rules of the order are in conflict",
      detail: together(
        said`${joined(cycle.map((step) => drafts[step]!.title))} would each have to come before the `,
        said`other. Rules: ${rules.join("; ")}.`,
      ),
      cure: said`Follow the makers' manuals: the sheet leaves out “${drop.need.rule}”`,
      source: "Order rules and power-up rules of the kits",
    });
  }
}

function isOwn(rule: string): boolean {
  return ORDER_RULES.some(({ id }) => id === rule);
}

/** A need that stands twice, by the first rule that asks for it. */
function reduced(needs: readonly Need[]): readonly Need[] {
  const seen = new Set<string>();
  return needs.filter(({ step }) => {
    const isNew = !seen.has(step);
    seen.add(step);
    return isNew;
  });
}

/**
 * Again and again the step of the earliest stage that nothing holds up, at the place of the one before where there is
 * one.
 */
function inOrder(steps: readonly VisitStep[]): readonly VisitStep[] {
  const left = new Map(steps.map((step) => [step.id, step.needs.length]));
  const followers = new Map<string, VisitStep[]>();
  for (const step of steps)
    for (const { step: need } of step.needs) followers.set(need, [...(followers.get(need) ?? []), step]);
  const ready = steps.filter(({ needs }) => needs.length === 0);
  const order: VisitStep[] = [];
  while (ready.length > 0) {
    const here = order.at(-1)?.place;
    const rank = (step: VisitStep) => 2 * VISIT_PHASES.indexOf(step.stage) + (step.place === here ? 0 : 1);
    const at = ready.reduce((best, step, which) => (rank(step) < rank(ready[best]!) ? which : best), 0);
    const [step] = ready.splice(at, 1);
    order.push(step!);
    for (const follower of followers.get(step!.id) ?? []) {
      const count = left.get(follower.id)! - 1;
      left.set(follower.id, count);
      if (count === 0) ready.push(follower);
    }
  }
  return order;
}
