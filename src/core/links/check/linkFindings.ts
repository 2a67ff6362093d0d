import { said, together } from "@/core/sentence";
import type { Finding } from "@/core/findings";
import { given } from "@/core/given";
import { radioOfLink } from "@/core/links/air/airPath";
import { busOfLink } from "@/core/links/bus/busOfLink";
import { can, canRequestSchema } from "@/core/links/bus/can";
import { canOfLink } from "@/core/links/bus/canOfLink";
import { cellularMbAMonth } from "@/core/links/air/cellular";
import { linkFinding } from "@/core/links/check/linkFinding";
import { cellularSettings, powerLineSettings } from "@/core/plan/linkSchema";
import { LONGEST_ETHERNET_M } from "@/core/links/propose/proposeNetwork";
import { radio } from "@/core/links/air/radio";
import { rs485 } from "@/core/links/bus/rs485";
import { rs485RequestSchema } from "@/core/links/bus/rs485Schema";
import { wifiFindings } from "@/core/links/check/wifiFindings";
import { isWhole } from "@/core/plan/linkEnds";
import type { KitDevice, PlanLink, ResolvedPlan } from "@/core/plan/resolvedPlan";
import { rangeFindings } from "@/core/rangeFindings";
import { distanceBetween } from "@/core/site/distances";
import { threeDigits } from "@/core/units";

/** Cable fixed in the building; the rest of 100 m is for the leads. */
const FIXED_ETHERNET_M = 90;
const WEAK_CELLULAR_DBM = -100;
const NO_CELLULAR_DBM = -112;
/** Bytes of the frame that the air time of a radio link is shown for. */
const PAYLOAD_BYTES = 45;
/** Below this part of its data plan a month is left unsaid. */
const PLAN_NEARLY_FULL = 0.8;

/**
 * What is wrong with one link, each finding with the link's name. A kit that comes set to other serial settings than
 * its bus is a note, with the values to set. That terminators make no difference is no finding of a plan.
 */
export function linkFindings(plan: ResolvedPlan, link: PlanLink): readonly Finding[] {
  const named = (finding: Finding): Finding => ({
    ...finding,
    id: `${link.id}:${finding.id}`,
    detail: said`${link.name}: ${finding.detail}`,
  });
  const gone = link.ends.filter((end) => !isWhole(end));
  if (gone.length > 0)
    return [
      named(
        linkFinding("Links against the plan")(
          "member-gone",
          "fix",
          gone[0]!.member.item,
          "A port of this link is gone",
          said`${gone.map(({ member }) => member.item).join(", ")} has no such port any more.`,
          "Propose the links anew, or remove this one",
        ),
      ),
    ];
  const isLaid = !["wifi", "radio", "power-line", "cellular", "usb"].includes(link.kind);
  const noCable =
    isLaid && link.ends.some(({ cableM }) => cableM === undefined)
      ? [
          linkFinding("Ways between the places")(
            "no-cable",
            "fix",
            undefined,
            "No cable can be laid",
            "two of its places are joined by no cable.",
            "Carry it by a radio pair, or measure the way",
          ),
        ]
      : [];
  return [...noCable, ...ownFindings(plan, link), ...(isLaid ? weatherFindings(plan, link) : [])].map(named);
}

function ownFindings(plan: ResolvedPlan, link: PlanLink): readonly Finding[] {
  switch (link.kind) {
    case "rs485": {
      const bus = busOfLink(link);
      return bus
        ? [
            ...rangeFindings(rs485RequestSchema, bus, inRange(link)),
            ...loneTerminator(bus),
            ...rs485(bus)
              .findings.filter(({ code }) => code !== "termination-optional")
              .filter((finding) => !isRadioAddress(link, finding))
              .map(asPlanned),
          ]
        : [];
    }
    case "can": {
      const bus = canOfLink(link);
      return bus
        ? [...rangeFindings(canRequestSchema, bus, inRange(link)), ...can(bus).findings, ...bitrateFindings(link)]
        : [];
    }
    case "ethernet":
      return ethernetFindings(link);
    case "wifi":
      return wifiFindings(plan, link);
    case "radio":
      return radioFindings(plan, link);
    case "cellular":
      return cellularFindings(link);
    case "power-line":
      return powerLineFindings(link);
    case "dry-contact":
      return contactFindings(link);
    // What is wrong with a bank shows between its links: see batteryFindings.
    case "bank":
    case "usb":
      return [];
  }
}

/** One terminator is enough on a short line; the multimeter then shows it, and nobody looks for the other. */
function loneTerminator(bus: NonNullable<ReturnType<typeof busOfLink>>): readonly Finding[] {
  const { terminationMatters, resistanceOffOhm } = rs485(bus);
  const fitted = bus.devices.filter(({ terminator }) => terminator).length;
  if (terminationMatters || fitted !== 1 || bus.devices.length < 2) return [];
  return [
    linkFinding("Terminators and inputs side by side")(
      "terminator-single",
      "note",
      undefined,
      "One terminator only",
      together(
        "on a line this short it makes no difference; ",
        said`everything off, A to B shows ${threeDigits(resistanceOffOhm)} Ω.`,
      ),
      "Leave it, or switch the other end on too",
    ),
  ];
}

function inRange({ name }: PlanLink) {
  return { id: "bus", name, stage: "wire", subject: { kind: "job" } } as const;
}

/** Half of a radio pair passes frames on and has no address of its own. */
function isRadioAddress(link: PlanLink, { code, subject }: Finding): boolean {
  if (code !== "address-missing" || subject.kind !== "link-device") return false;
  return link.ends.some(({ device }) => device?.kit.kind === "radio-pair" && subject.device.startsWith(device.name));
}

/** A kit that comes set to something else is no fault yet: it is a value to enter. */
function asPlanned(finding: Finding): Finding {
  return finding.code === "serial-mismatch"
    ? { ...finding, severity: "note", title: "To be set for this bus" }
    : finding;
}

function bitrateFindings(link: PlanLink): readonly Finding[] {
  const rates = link.ends.flatMap(({ device }) =>
    device?.kit.can ? [{ name: device.name, bitrate: device.kit.can.bitrate }] : [],
  );
  const odd = rates.find(({ bitrate }) => bitrate !== (link.baud ?? rates[0]?.bitrate));
  return odd
    ? [
        linkFinding("Kits of both ends, can.bitrate")(
          "bitrate-mismatch",
          "fix",
          odd.name,
          "Both ends speak at different speeds",
          said`${odd.name} speaks at ${odd.bitrate / 1000} kbit/s, the link is for ${(link.baud ?? 0) / 1000}.`,
          "Set both to one bit rate, or choose a battery that fits",
        ),
      ]
    : [];
}

function ethernetFindings(link: PlanLink): readonly Finding[] {
  const make = linkFinding("ISO/IEC 11801: 90 m fixed and 10 m of leads");
  const lengthM = link.ends.reduce((sum, { cableM }) => sum + (cableM ?? 0), 0);
  if (lengthM > LONGEST_ETHERNET_M)
    return [
      make(
        "too-long",
        "fix",
        undefined,
        "Network cable too long",
        said`${threeDigits(lengthM)} m; ${LONGEST_ETHERNET_M} m with both leads is the most.`,
        "Put a switch on the way, or take fibre or a radio",
      ),
    ];
  if (lengthM > FIXED_ETHERNET_M)
    return [
      make(
        "long",
        "note",
        undefined,
        "Network cable near its limit",
        said`${threeDigits(lengthM)} m; ${FIXED_ETHERNET_M} m fixed and 10 m of leads.`,
        "Measure the way again before the cable is cut",
      ),
    ];
  return [];
}

function radioFindings({ site }: ResolvedPlan, link: PlanLink): readonly Finding[] {
  const ends = link.ends.flatMap(({ device }) => device ?? []);
  if (ends.some(({ kit }) => kit.kind === "radio-pair")) {
    const inDetail = radio({ ...radioOfLink(link), payloadBytes: PAYLOAD_BYTES });
    return [...inDetail.findings, ...ends.flatMap((end) => coldFindings(end))];
  }
  const hub = ends[0];
  const make = linkFinding("Kits: range and pairing window; ways of the plan");
  return ends.slice(1).flatMap((end): readonly Finding[] => {
    const { straightM, cableM, walkMin } = distanceBetween(site, hub?.place?.id, end.place?.id);
    const reachM = straightM ?? cableM;
    const rangeM = end.kit.metering?.transmitter?.rangeM;
    const windowS = Math.min(end.kit.timers.pairingWindowS ?? Infinity, hub?.kit.timers.pairingWindowS ?? Infinity);
    return given(
      rangeM !== undefined &&
        reachM !== undefined &&
        reachM > rangeM &&
        make(
          "radio-range",
          "fix",
          end.name,
          "Out of radio range",
          said`${end.name} is ${threeDigits(reachM)} m from ${hub?.name}; ${rangeM} m is its range.`,
          "Hang it nearer, or take a wired meter",
        ),
      walkMin !== undefined &&
        Number.isFinite(windowS) &&
        walkMin * 60 > windowS &&
        make(
          "pairing-walk",
          "note",
          end.name,
          "The way is longer than the pairing window",
          said`${walkMin} min of way, ${windowS} s of window.`,
          "Pair it beside the hub before it is hung, or with a mate at the other end",
        ),
    );
  });
}

/** What an aerial outside must stand: a place outdoors can be as cold and as hot as a year. */
function coldFindings({ name, kit, place }: KitDevice): readonly Finding[] {
  const shelter = place?.shelter;
  const range = kit.environment.temperatureC;
  if (!range || shelter === undefined || shelter === "indoors") return [];
  const [coldestC, hottestC] = shelter === "outdoors" ? [-25, 50] : [-15, 45];
  if (range.min <= coldestC && range.max >= hottestC) return [];
  return [
    linkFinding(`Kit ${kit.id}, environment.temperatureC`)(
      "temperature",
      "note",
      name,
      "Weather against its temperatures",
      together(
        said`${name} is for ${range.min} to ${range.max} °C; ${shelter === "outdoors" ? "outdoors" : "unheated"} `,
        said`it can be ${coldestC} to ${hottestC} °C.`,
      ),
      "Hang it inside where the winter is colder than it stands",
    ),
  ];
}

function cellularFindings(link: PlanLink): readonly Finding[] {
  const settings = cellularSettings(link);
  const make = linkFinding("Bytes of a report with 900 of headers, times reports in 30 days");
  const usedMb = cellularMbAMonth(settings);
  const name = link.ends[0]?.device?.name ?? link.name;
  const { signalDbm } = settings;
  return given(
    usedMb > settings.planMb
      ? make(
          "data-plan",
          "fix",
          undefined,
          "More data than the SIM's plan",
          said`${threeDigits(usedMb)} MB a month of ${settings.planMb}.`,
          "Report less often, or take a larger plan",
        )
      : usedMb > PLAN_NEARLY_FULL * settings.planMb &&
          make(
            "data-plan",
            "note",
            undefined,
            "Near the end of the SIM's plan",
            said`${threeDigits(usedMb)} MB a month of ${settings.planMb}.`,
            "Leave firmware to the customer's network",
          ),
    signalDbm !== undefined && signalDbm < NO_CELLULAR_DBM
      ? make(
          "cellular-weak",
          "fix",
          undefined,
          "Hardly any cellular signal",
          said`${signalDbm} dBm; ${NO_CELLULAR_DBM} dBm is the least.`,
          "Put the aerial outside metal and higher, or take another provider",
        )
      : signalDbm !== undefined &&
          signalDbm < WEAK_CELLULAR_DBM &&
          make(
            "cellular-weak",
            "note",
            undefined,
            "Weak cellular signal",
            said`${signalDbm} dBm; from ${WEAK_CELLULAR_DBM} dBm on it holds.`,
            "Move the aerial, and look again after a minute",
          ),
    signalDbm === undefined &&
      make(
        "sim-first",
        "note",
        undefined,
        "SIM before power, aerial outside metal",
        said`${name} looks for its SIM only when it starts.`,
        said`Put the SIM in before ${name} is powered, and write down the signal that it shows`,
      ),
  );
}

function powerLineFindings(link: PlanLink): readonly Finding[] {
  const make = linkFinding("Power-line signals: own outlet, no filter, same phase");
  const settings = powerLineSettings(link);
  const installed = link.ends.slice(1).reduce((sum, { device }) => sum + unitsOf(device), 0);
  return given(
    !settings.ownOutlet &&
      make(
        "no-own-outlet",
        "fix",
        undefined,
        "The gateway shares its outlet",
        "what else is plugged in swallows the signal.",
        "Give the gateway an outlet of its own near the board",
      ),
    settings.throughStrip &&
      make(
        "through-strip",
        "fix",
        undefined,
        "A strip, filter or backup supply is in the way",
        "its filter takes the signal of every unit.",
        "Plug the gateway straight into the wall",
      ),
    !settings.samePhase &&
      make(
        "other-phase",
        "fix",
        undefined,
        "Gateway and units on different phases",
        "the signal crosses only by chance.",
        "Put the gateway on the phase of the units",
      ),
    settings.noisyNeighbours &&
      make(
        "noisy",
        "note",
        undefined,
        "Noisy neighbours on the circuit",
        "chargers, dimmers and power supplies drown the signal at times.",
        "Unplug them in turn while the gateway counts",
      ),
    settings.unitsHeard !== undefined &&
      settings.unitsHeard < installed &&
      make(
        "units-missing",
        "fix",
        undefined,
        "Not every unit is heard",
        said`${settings.unitsHeard} of ${installed} heard.`,
        "Wait for light on all of them, then look for the circuit of the silent ones",
      ),
  );
}

/** How many module units stand behind one device of the plan: by rating where it says more than one. */
export function unitsOf(device: KitDevice | undefined): number {
  const ratedW = device?.node?.ratedW;
  const each = device?.kit.ratings.powerW;
  return ratedW !== undefined && each !== undefined ? Math.max(1, Math.round(ratedW / each)) : 1;
}

function contactFindings(link: PlanLink): readonly Finding[] {
  const make = linkFinding("Contacts of the kits");
  const [giver, taker] = link.ends.filter(isWhole);
  if (!giver || !taker) return [];
  const count = (end: typeof giver) => end.port.terminals.filter(({ role }) => role === "dry-contact").length;
  return given(
    giver.port.role === taker.port.role &&
      giver.port.role !== undefined &&
      make(
        "contact-roles",
        "fix",
        undefined,
        "Both ends are alike",
        together(
          said`${giver.device.name} and ${taker.device.name} both `,
          said`${giver.port.role === "server" ? "give a contact" : "wait for one"}.`,
        ),
        "Join a contact that is given with an input that waits",
      ),
    count(giver) > count(taker) &&
      make(
        "contacts-unused",
        "note",
        undefined,
        "Contacts without an input",
        said`${count(giver)} contacts, ${count(taker)} inputs.`,
        "Ask the grid operator which of them are used here",
      ),
  );
}

/** A cable that leaves the house is one for outdoors, whatever hangs at its ends. */
function weatherFindings({ site }: ResolvedPlan, link: PlanLink): readonly Finding[] {
  const places = new Set(link.ends.map(({ device }) => device?.place));
  const out = site.places.filter((place) => place.shelter === "outdoors" && places.has(place));
  if (out.length === 0) return [];
  return [
    linkFinding("Shelter of the places")(
      "outdoor-cable",
      "note",
      undefined,
      "Part of it is outdoors",
      said`${out.map(({ name }) => name).join(", ")}.`,
      "Take a cable made for outdoors, enter from below, and seal the gland",
    ),
  ];
}
