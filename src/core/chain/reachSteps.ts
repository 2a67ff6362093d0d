import { given } from "@/core/given";
import type { Kit } from "@/core/kits/kitSchema";
import type { SetUp } from "@/core/kits/onlineKitSchema";
import { accessPointName, accessPointWords } from "@/core/online/accessPointName";
import type { OnlineWay } from "@/core/online/ways";
import type { Network } from "@/core/plan/linkSchema";
import { joined } from "@/core/words";

/** One act on the way to a device that is set up. */
export interface ReachStep {
  readonly id: string;
  readonly text: string;
  /** After an interruption, a phone call or a closed page, it goes on from the last of these. */
  readonly isRestart: boolean;
}

/** What bears on the way to a device: its number, the site's network, and which way is set. */
export interface ReachContext {
  readonly serial: string | undefined;
  readonly network: Network;
  readonly way: OnlineWay;
}

const HIDDEN_WORDS: Readonly<Record<SetUp["hides"][number], string>> = {
  "hidden-names": "networks with a hidden name",
  "5-ghz": "networks on 5 GHz",
  wpa3: "networks with WPA3 alone",
  weak: "weak networks",
};

/**
 * How one device is reached and set, act by act, from the kit: the right one by its serial number, what starts it,
 * which page, what its list leaves out, the old connection first, and its end.
 *
 * For example: an access point that is started by hand: start it, mobile data off, join it by its name, open its page,
 * choose the network, type the passphrase, look what it confirms, stop it.
 */
export function reachSteps(kit: Kit, setUp: SetUp, { serial, network, way }: ReachContext): readonly ReachStep[] {
  const { online } = kit;
  const step = (id: string, text: string, isRestart = false): ReachStep => ({ id, text, isRestart });
  const lacks = listLacks(kit, setUp, network);
  return given(
    online?.removeOldFirst &&
      step("old", "Remove the old connection first, in the device and in its service: two ways in confuse the service"),
    setUp.start !== undefined && step("start", openFor(`${setUp.start}`, setUp.startsForMin), true),
    setUp.by === "access-point" && setUp.flightMode && step("flight", "Flight mode on in the phone, then its Wi-Fi on"),
    setUp.by === "access-point" &&
      kit.network?.accessPoint &&
      step("join", joinWords(kit, serial), setUp.start === undefined),
    setUp.by === "access-point" && step("page", pageWords(kit, setUp)),
    setUp.by === "bluetooth" && step("app", "Open its app beside it, and choose it by its serial number", true),
    setUp.logIn !== undefined && step("log-in", `It wants a log-in: ${setUp.logIn}`),
    setUp.menu.length > 0 && step("menu", setUp.menu.join(" › "), setUp.by === "display-keys"),
    way === "wifi" && lacks !== undefined && step("lacks", lacks),
    way === "wifi" && step("type", "Choose the network, type the passphrase: the helper below counts and spells it"),
    way === "cellular" && step("provider", providerWords(kit)),
    setUp.confirmed !== undefined && step("confirmed", `Taken: ${setUp.confirmed}`),
    setUp.by === "access-point" &&
      step("stop", setUp.stop === undefined ? "Its network ends by itself" : `At the end: ${setUp.stop}`),
    setUp.flightMode && step("flight-off", "Flight mode off again"),
  );
}

function openFor(start: string, minutes: number | undefined): string {
  return minutes === undefined ? start : `${start}; it stays open for ${minutes} min`;
}

function joinWords({ network }: Kit, serial: string | undefined): string {
  const point = network!.accessPoint!;
  const name = serial === undefined ? undefined : accessPointName(point.name, serial);
  const key = point.passphrase === undefined ? "" : `; passphrase: ${point.passphrase}`;
  return name === undefined
    ? `Join its network, named by the rule: ${accessPointWords(point.name)}${key}`
    : `Join its network “${name}”, and no other: that is this device${key}`;
}

function pageWords({ network }: Kit, { address }: SetUp): string {
  return address === "display" || !network?.accessPoint
    ? "Open its page at the address that its display shows"
    : `Open its page at ${network.accessPoint.address}, typed as an address and not as a search`;
}

/** What its list of networks does not show, as far as it bears on this network. */
function listLacks(kit: Kit, { hides }: SetUp, network: Network): string | undefined {
  const isDeafTo5 = !(kit.network?.bandsGhz ?? []).includes(5);
  const bears = hides.filter(
    (own) =>
      (own === "hidden-names" && network.hiddenName) ||
      (own === "5-ghz" && isDeafTo5 && (network.oneName || !network.bandsGhz.includes(2.4))) ||
      (own === "wpa3" && network.security === "wpa3") ||
      own === "weak",
  );
  if (bears.length === 0) return undefined;
  const cure = bears.includes("hidden-names") ? ": type its name by hand" : ": it may be there and not be listed";
  return `Its list leaves out ${joined(bears.map((own) => HIDDEN_WORDS[own]))}${cure}`;
}

function providerWords({ online }: Kit): string {
  const pin = online?.sim?.takesPin ? "its PIN" : "no PIN: it is taken off in a phone before";
  return `The provider's access-point name, user and password as the provider gives them; ${pin}`;
}
