import { ctPortOf } from "@/core/links/wiring/meterWiring";
import type { PlanInput, PlanMeter } from "@/core/plan/resolvedPlan";
import { isCurrentOutput } from "@/core/sensing/ctBurden";
import { distanceBetween } from "@/core/site/distances";
import { inputTag } from "@/core/site/inputTag";
import type { SettingLine } from "@/core/visit/rules/settings";
import { activeSchool } from "@/core/visit/schools";
import type { VisitContext } from "@/core/visit/visitContext";
import { threeDigits } from "@/core/units";

/**
 * Whether the leads of a meter are laid, clamped and cut before they are terminated: only where that is the method, and
 * every CT gives a voltage, or sits on a conductor that is off. A current-output CT round a live conductor never.
 */
export function isClampFirst(context: VisitContext, meterId: string | undefined): boolean {
  if (activeSchool(context.visit, undefined, "ctLeads").option !== "clamp-first") return false;
  const meter = context.plan.meterById.get(meterId ?? "");
  if (!meter) return false;
  return meter.inputs
    .filter(({ input }) => !input.builtIn)
    .every((own) => !isCurrentOutput(own.input.secondary) || isDead(context, own));
}

/** A run is off when a board above it is: what feeds the first board itself stays live up to its switch. */
function isDead({ plan, scope }: VisitContext, { input }: PlanInput): boolean {
  const off = new Set(scope.boards.map(({ id }) => id));
  return input.measures.every(({ run }) => {
    for (let above = plan.deviceById.get(run)?.parent; above; above = above.parent) if (off.has(above.id)) return true;
    return false;
  });
}

/** What goes where at the meter, and whether the lead is long enough for the way. */
export function leadLines({ site, plan }: VisitContext, meter: PlanMeter): readonly SettingLine[] {
  return meter.inputs
    .filter(({ input }) => !input.builtIn)
    .flatMap((own) => [
      { label: inputTag(site, meter.id, own.input.n), value: terminalsOf(meter, own) },
      ...lengthLines(own, lengthOfWay(site, plan.deviceById, meter, own)),
    ]);
}

function terminalsOf(meter: PlanMeter, own: PlanInput): string {
  const { input, kitInput, ctKit } = own;
  const port = ctPortOf(meter, own);
  const at = (role: "ct-k" | "ct-l") => port?.terminals.find((terminal) => terminal.role === role);
  const lead = ctKit?.clamp?.lead;
  const [k, l] = [at("ct-k"), at("ct-l")];
  const name = kitInput?.label ?? `input ${input.n}`;
  const pin = (terminal: NonNullable<typeof k>) =>
    `${terminal.label}${terminal.pin === undefined ? "" : ` (pin ${terminal.pin})`}`;
  if (!k || !l)
    return lead ? `${name}: ${lead.plus} is +, ${lead.minus} is −` : `${name}: + first, as the CT's plate marks it`;
  return lead
    ? `${name}: ${lead.plus} (+) into ${pin(k)}, ${lead.minus} (−) into ${pin(l)}`
    : `${name}: k (+) into ${pin(k)}, l (−) into ${pin(l)}`;
}

function lengthOfWay(
  site: VisitContext["site"],
  deviceById: VisitContext["plan"]["deviceById"],
  { meter }: PlanMeter,
  { input }: PlanInput,
): number | undefined {
  const run = deviceById.get(input.measures[0]?.run ?? "");
  return distanceBetween(site, (run?.parent ?? run)?.place?.id, meter.place).cableM;
}

function lengthLines({ input, ctKit }: PlanInput, wayM: number | undefined): readonly SettingLine[] {
  const leadM = input.clamp?.leadM ?? ctKit?.clamp?.leadM;
  const cut = ctKit?.clamp?.lead?.mayShorten;
  const isCurrent = isCurrentOutput(input.secondary);
  const length =
    leadM === undefined
      ? "its length is not in the plan"
      : wayM === undefined || wayM === 0
        ? `${threeDigits(leadM)} m of lead`
        : leadM >= wayM
          ? `${threeDigits(leadM)} m of lead for ${threeDigits(wayM)} m of way`
          : `${threeDigits(leadM)} m of lead is too short for ${threeDigits(wayM)} m of way: ` +
            "extend it as a twisted pair";
  const shorten =
    cut === undefined
      ? "shorten it only where its manual allows it"
      : cut
        ? "may be cut to length"
        : "never shortened: it is a part of the calibration";
  return [{ label: "Lead", value: `${length}; ${shorten}${isCurrent ? "; shorted until it is terminated" : ""}` }];
}
