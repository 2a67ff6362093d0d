import type { Finding } from "@/core/findings";
import { given } from "@/core/given";
import { linkFinding } from "@/core/links/check/linkFinding";
import type { KitDevice, PlanLink, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { said } from "@/core/sentence";
import { joined } from "@/core/words";

const INVERTERS = ["hybrid-inverter", "battery-inverter"];

/**
 * Whether batteries and inverters fit: the voltage of the bank, its model where the inverter's menu names models, and
 * the bank itself: every module on its line, an address each, no more of them than can be joined.
 *
 * For example: modules of 51 V on an inverter for 120 to 500 V: a finding that stops.
 */
export function batteryFindings(plan: ResolvedPlan): readonly Finding[] {
  return [
    ...plan.links.flatMap(({ ends }) => fitOf(ends.flatMap(({ device }) => device ?? []))),
    ...bankFindings(plan),
  ];
}

function fitOf(devices: readonly KitDevice[]): readonly Finding[] {
  const inverter = devices.find(({ kit }) => INVERTERS.includes(kit.kind) && kit.storage !== undefined);
  const battery = devices.find(({ kit }) => kit.kind === "battery");
  if (!inverter || !battery) return [];
  const { minV, maxV, kits } = inverter.kit.storage!;
  const { voltageV } = battery.kit.ratings;
  const make = linkFinding(`Kits ${inverter.kit.id}, storage, and ${battery.kit.id}, ratings.voltageV`);
  return given(
    voltageV !== undefined &&
      (voltageV < minV || voltageV > maxV) &&
      make(
        "battery-voltage",
        "stop",
        battery.name,
        "Battery and inverter are for different voltages",
        said`${battery.name} has ${voltageV} V; ${inverter.name} takes ${minV} to ${maxV} V.`,
        "Choose a battery that the inverter takes: never join these two",
      ),
    kits !== undefined &&
      !kits.includes(battery.kit.id) &&
      make(
        "battery-model",
        "fix",
        battery.name,
        "The inverter's menu does not know this battery",
        said`${inverter.name} has no entry for ${battery.kit.name}.`,
        "Choose one that it knows, or ask both makers in writing",
      ),
  );
}

/** Of the modules of each kit: those on no line, and what is wrong with the bank on each line. */
function bankFindings({ joinable, links }: ResolvedPlan): readonly Finding[] {
  const kits = [...new Set(joinable.filter(({ kit }) => kit.kind === "battery").map(({ kit }) => kit))];
  return kits.flatMap((kit): readonly Finding[] => {
    const modules = joinable.filter((device) => device.kit.id === kit.id);
    const lines = links.filter(({ kind, members }) => kind === "bank" && members.some(isOf(modules)));
    const banks = lines.map(({ members }) => modules.filter(({ id }) => members.some(({ item }) => item === id)));
    // A module that speaks to an inverter itself is a battery of one.
    const spoken = new Set(
      links.filter(({ kind }) => kind === "can").flatMap(({ members }) => members.map(({ item }) => item)),
    );
    const loose = modules.filter((module) => !spoken.has(module.id) && !banks.some((bank) => bank.includes(module)));
    const hasPort = kit.ports.some(({ kind }) => kind === "bank");
    const make = linkFinding(`Kit ${kit.id}: its bank`);
    return [
      ...given(
        hasPort &&
          modules.length > 1 &&
          loose.length > 0 &&
          make(
            "bank-module-loose",
            "fix",
            loose[0]!.name,
            "A module is on no line of its bank",
            said`${joined(loose.map(({ name }) => name))}: joined to no other module, the first one does not count it.`,
            "Propose the links anew, or join it to the module before it",
          ),
      ),
      ...lines.flatMap((line, at) => lineFindings(line, banks[at]!, kit.ratings.unitsMax, make)),
      // Without any line all of them are meant for one.
      ...(lines.length === 0 ? sizeFindings(modules, kit.ratings.unitsMax, make) : []),
    ];
  });
}

function lineFindings(
  { members }: PlanLink,
  bank: readonly KitDevice[],
  most: number | undefined,
  make: ReturnType<typeof linkFinding>,
): readonly Finding[] {
  const addresses = members.flatMap(({ address }) => address ?? []);
  const twice = addresses.find((address, at) => addresses.indexOf(address) < at);
  return [
    ...given(
      twice !== undefined &&
        make(
          "bank-address-twice",
          "fix",
          bank[0]!.name,
          "Two modules of a bank have one address",
          said`Address ${twice} stands twice.`,
          "Give each module an address of its own, the one that speaks to the inverter the first",
        ),
    ),
    ...sizeFindings(bank, most, make),
  ];
}

function sizeFindings(
  bank: readonly KitDevice[],
  most: number | undefined,
  make: ReturnType<typeof linkFinding>,
): readonly Finding[] {
  return given(
    most !== undefined &&
      bank.length > most &&
      make(
        "bank-too-large",
        "fix",
        bank[0]!.name,
        "More modules than can be joined",
        said`${bank.length} modules; at most ${most} make one bank.`,
        "Leave some out, or give them an inverter of their own",
      ),
  );
}

function isOf(bank: readonly KitDevice[]): (member: { readonly item: string }) => boolean {
  const ids = new Set(bank.map(({ id }) => id));
  return ({ item }) => ids.has(item);
}
