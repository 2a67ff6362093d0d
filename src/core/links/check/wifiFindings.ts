import { joinedSentences, said, together } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import { wifiBudget } from "@/core/links/air/wifi";
import { linkFinding } from "@/core/links/check/linkFinding";
import { wifiSettings, type Network } from "@/core/plan/linkSchema";
import type { KitDevice, PlanLink, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { distanceBetween } from "@/core/site/distances";
import { threeDigits } from "@/core/units";

/** Distance to a router where the plan has none, m. */
const USUAL_WIFI_M = 8;
/** How far the phone may be from what was computed before one of the two is looked at again. */
const SEEN_DIFFERS_DB = 12;
/** From this level on Wi-Fi is good; down to the other it is marginal. */
const GOOD_DBM = -67;
const LEAST_DBM = -75;
const BUDGET_SOURCE = "Log-distance path loss with wall losses; −67 dBm good, −75 dBm marginal";

/** The distance in a straight line from router to device, m, and whether the plan had it. */
export function wifiDistanceM({ site }: Pick<ResolvedPlan, "site">, link: PlanLink): number {
  const [a, b] = link.ends.map(({ device }) => device?.place?.id);
  if (a !== undefined && a === b) return 2;
  const { straightM, cableM } = distanceBetween(site, a, b);
  return straightM ?? cableM ?? USUAL_WIFI_M;
}

/**
 * What is wrong with a Wi-Fi link: its level at the spot, its band, and what the router asks of the device.
 *
 * For example: −80 dBm seen with the phone: "Too little Wi-Fi at the spot".
 */
export function wifiFindings(plan: ResolvedPlan, link: PlanLink): readonly Finding[] {
  const device = link.ends.map((end) => end.device).find((own) => own?.kit.kind !== "router");
  return [
    ...levelFindings(plan, link),
    ...bandFindings(plan.network, device, wifiSettings(link).bandGhz),
    ...routerFindings(plan.network, device),
  ];
}

function levelFindings(plan: ResolvedPlan, link: PlanLink): readonly Finding[] {
  const make = linkFinding(BUDGET_SOURCE);
  const { bandGhz, walls, seenDbm } = wifiSettings(link);
  const distanceM = wifiDistanceM(plan, link);
  const { rxDbm } = wifiBudget(bandGhz, distanceM, walls);
  const levelDbm = seenDbm ?? rxDbm;
  const says = seenDbm === undefined ? said`${threeDigits(rxDbm)} dBm computed` : said`the phone showed ${seenDbm} dBm`;
  const findings: Finding[] = [];
  if (levelDbm < LEAST_DBM)
    findings.push(
      make(
        "wifi-weak",
        "fix",
        undefined,
        "Too little Wi-Fi at the spot",
        said`${says}; −75 dBm is the least.`,
        "Lay a cable, or put an access point nearer",
      ),
    );
  else if (levelDbm < GOOD_DBM)
    findings.push(
      make(
        "wifi-marginal",
        "note",
        undefined,
        "Marginal Wi-Fi at the spot",
        said`${says}; from −67 dBm on it is good.`,
        "Hold the phone at the spot with the doors closed, and prefer a cable",
      ),
    );
  if (seenDbm !== undefined && Math.abs(seenDbm - rxDbm) > SEEN_DIFFERS_DB)
    findings.push(
      make(
        "wifi-differs",
        "note",
        undefined,
        "The phone shows something else",
        together(
          said`${seenDbm} dBm seen, ${threeDigits(rxDbm)} dBm computed over `,
          said`${threeDigits(distanceM)} m.`,
        ),
        "Correct the walls, or look which network the phone is in",
      ),
    );
  return findings;
}

function bandFindings(network: Network, device: KitDevice | undefined, bandGhz: number): readonly Finding[] {
  const make = abilities(device);
  const heardGhz: readonly number[] = device?.kit.network?.bandsGhz ?? [];
  const findings: Finding[] = [];
  if (device && heardGhz.length > 0 && !heardGhz.includes(bandGhz))
    findings.push(
      make(
        "band-unknown",
        "fix",
        device.name,
        "Not on this band",
        said`${device.name} hears ${joinedSentences(
          heardGhz.map((band) => said`${band}`),
          " and ",
        )} GHz; the link is for ${bandGhz}.`,
        said`Take ${heardGhz[0]!} GHz`,
      ),
    );
  if (!network.bandsGhz.some((band) => band === bandGhz))
    findings.push(
      make(
        "band-off",
        "fix",
        undefined,
        "The router does not send on this band",
        said`${bandGhz} GHz is off in the router.`,
        said`Switch ${bandGhz} GHz on in the router`,
      ),
    );
  const hearsLowerOnly = heardGhz.length > 0 && !heardGhz.includes(5);
  if (device && hearsLowerOnly && network.oneName && network.bandsGhz.includes(5))
    findings.push(
      make(
        "one-name",
        "note",
        device.name,
        "One name for both bands",
        said`${device.name} hears ${2.4} GHz only; the phone that sets it up may sit on 5.`,
        said`Give ${2.4} GHz a name of its own while the device is set up`,
      ),
    );
  return findings;
}

function routerFindings(network: Network, device: KitDevice | undefined): readonly Finding[] {
  const make = abilities(device);
  const name = device?.name ?? "The device";
  const known = device?.kit.network?.security ?? [];
  const findings: Finding[] = [];
  if (device && known.length > 0 && !isSecured(known, network.security))
    findings.push(
      make(
        "security",
        "fix",
        device.name,
        "Another security than the router's",
        said`${name} knows ${known.join(", ")}; the router asks for ${network.security}.`,
        "Set the router to WPA2 and WPA3 together, or lay a cable",
      ),
    );
  if (network.hiddenName)
    findings.push(
      make(
        "hidden-name",
        "note",
        device?.name,
        "Hidden network name",
        said`${name} does not find the network in its list.`,
        "Type the name, or show it while the device is set up",
      ),
    );
  if (network.portal)
    findings.push(
      make(
        "portal",
        "fix",
        device?.name,
        "A sign-in page stands before the internet",
        said`${name} cannot fill it in.`,
        "Ask for a network without a sign-in page, or take cellular",
      ),
    );
  return findings;
}

function abilities(device: KitDevice | undefined) {
  return linkFinding(device ? `Kit ${device.kit.id}, network, against the router as found` : BUDGET_SOURCE);
}

function isSecured(known: readonly string[], wanted: Network["security"]): boolean {
  return wanted === "wpa2-wpa3" ? known.includes("wpa2") || known.includes("wpa3") : known.includes(wanted);
}
