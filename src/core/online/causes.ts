import type { Rung } from "@/core/online/rungs";
import type { Changed, OnlineWay } from "@/core/online/ways";

const EVERY_WAY: readonly OnlineWay[] = ["cable", "wifi", "cellular", "hub", "power-line", "logger"];
const BY_ROUTER: readonly OnlineWay[] = ["cable", "wifi", "hub", "power-line", "logger"];

/** What may be wrong, and what puts it right. */
export interface Cause {
  readonly title: string;
  /** The first rung that is not reached. */
  readonly breaks: Rung;
  /** Where it is met; by another way it is as good as never. */
  readonly ways: readonly OnlineWay[];
  /** How often it is met, of a hundred chains that break, before anything is known. */
  readonly weight: number;
  /** How much more often after something changed. */
  readonly after?: Partial<Record<Changed, number>>;
  /** Why so often. */
  readonly reason: string;
  /** What is done about it, step by step. */
  readonly cure: readonly string[];
}

/**
 * Everything that breaks the chain from a device to its owner. The weights are judgements of practice, not counts: they
 * order what is alike, and a single telling outcome outweighs them.
 */
export const CAUSES = {
  "device-asleep": {
    title: "The device is asleep: no light, no power from its modules",
    breaks: "powered",
    ways: EVERY_WAY,
    weight: 4,
    reason: "An inverter without a battery sleeps in the dark; whoever comes in the evening meets it",
    cure: ["Come back in daylight, or feed it another way if its manual has one", "Nothing is wrong until then"],
  },
  "no-power": {
    title: "It has no power",
    breaks: "powered",
    ways: EVERY_WAY,
    weight: 3,
    reason: "A breaker that is off, or a supply unit that is not plugged in, after work at the board",
    cure: [
      "Look at its breaker, isolator and supply unit",
      "Switch it on in the order of its manual, wait for its start",
    ],
  },
  "module-not-seated": {
    title: "The module sits loose, or was plugged in at the wrong moment",
    breaks: "interface-up",
    ways: ["wifi", "cellular", "cable"],
    weight: 3,
    after: { device: 2.5 },
    reason: "Modules click in late, and some are found only at a start",
    cure: [
      "Pull the module and push it in until it clicks",
      "Start the device again as the kit says: module before power or after",
    ],
  },
  "aerial-missing": {
    title: "The aerial is off, inside metal, or at the wrong socket",
    breaks: "network-seen",
    ways: ["wifi", "cellular"],
    weight: 1.5,
    after: { device: 2 },
    reason: "It is shipped beside the device, and a closed metal box swallows it",
    cure: ["Screw the aerial on hand-tight, outside metal", "Look at the signal again after two minutes"],
  },
  "cable-fault": {
    title: "The cable or one of its plugs is at fault",
    breaks: "interface-up",
    ways: ["cable", "hub", "logger"],
    weight: 7,
    reason: "Plugs made on site are the first suspect of every wired link",
    cure: ["Test the cable pair by pair under Wire, or try a short ready-made one", "Make the bad plug anew"],
  },
  "switch-port": {
    title: "The socket of the router or switch is off or broken",
    breaks: "interface-up",
    ways: ["cable"],
    weight: 4,
    after: { router: 2 },
    reason: "Sockets that are switched off, or are another network's, look like a bad cable",
    cure: ["Put the cable into another socket", "Leave out what is between the device and the router"],
  },
  "out-of-reach": {
    title: "The network is too weak at this spot",
    breaks: "network-seen",
    ways: ["wifi", "hub"],
    weight: 8,
    after: { router: 1.3, nothing: 0.6 },
    reason: "Devices sit in cellars and garages, and hear less than a phone",
    cure: [
      "Measure at the device: it needs about -70 dBm",
      "An extender half-way, a cable, or another place for the router",
    ],
  },
  "band-not-heard": {
    title: "It hears 2.4 GHz only, and the network is on 5 GHz",
    breaks: "network-seen",
    ways: ["wifi"],
    weight: 4,
    after: { router: 2, nothing: 0.3 },
    reason: "Most device radios are 2.4 GHz; new routers put one name on both bands, or leave 2.4 GHz out",
    cure: ["Switch 2.4 GHz on at the router", "Give each band its own name while the device is joined"],
  },
  "hidden-network": {
    title: "The network hides its name",
    breaks: "network-seen",
    ways: ["wifi"],
    weight: 2,
    after: { router: 1.5, nothing: 0.3 },
    reason: "A list shows no hidden network: its name has to be typed",
    cure: ["Type the name by hand, exactly", "Or show the name while the device joins"],
  },
  "security-mode": {
    title: "The network's security is one that the device does not know",
    breaks: "joined",
    ways: ["wifi"],
    weight: 2,
    after: { router: 2, nothing: 0.3 },
    reason: "A router that asks for WPA3 alone keeps older radios out, while the phone joins",
    cure: ["Set the router to WPA2, or to WPA2 and WPA3 together", "Or join a guest network that has it"],
  },
  "wrong-network-name": {
    title: "Another network's name is entered",
    breaks: "network-seen",
    ways: ["wifi"],
    weight: 4,
    after: { router: 3, provider: 2, nothing: 0.15 },
    reason: "After a change of router the old name stays in the device; two like names are mixed up",
    cure: ["Choose the name from the list, at the device", "Delete the old network in the device first"],
  },
  "wrong-passphrase": {
    title: "The passphrase in the device is wrong",
    breaks: "joined",
    ways: ["wifi"],
    weight: 12,
    after: { router: 4, passphrase: 8, provider: 2, nothing: 0.15 },
    reason: "Typed by keys from a label with look-alikes; the commonest of all",
    cure: [
      "Type it again with the passphrase helper: look-alikes, capitals, no space at the end",
      "Take it from the router's label or from the phone that joins",
    ],
  },
  "no-dhcp": {
    title: "The router gives no address",
    breaks: "address",
    ways: BY_ROUTER,
    weight: 2.5,
    after: { router: 1.5, provider: 1.3 },
    reason: "A router that hangs, a full list of addresses, or a socket that is not its network",
    cure: ["Start the router again", "Look whether it gives addresses and has one free"],
  },
  "address-conflict": {
    title: "Two devices have the same address",
    breaks: "gateway",
    ways: BY_ROUTER,
    weight: 1.2,
    after: { router: 1.5, device: 1.5 },
    reason: "A fixed address inside the range that the router gives",
    cure: ["Let the router give the address", "Or choose a fixed one outside its range, under Wire"],
  },
  "static-address-wrong": {
    title: "A fixed address does not fit this network",
    breaks: "gateway",
    ways: BY_ROUTER,
    weight: 1.8,
    after: { router: 5, provider: 3, nothing: 0.3 },
    reason: "A fixed address stays as it was when the router changes",
    cure: ["Let the router give the address", "Or type address, mask and gateway of this network"],
  },
  "own-subnet-overlap": {
    title: "Its own access point uses the same addresses as this network",
    breaks: "gateway",
    ways: BY_ROUTER,
    weight: 1,
    after: { router: 2.5, nothing: 0.3 },
    reason: "With the same addresses on both sides the device sends the answer to itself",
    cure: ["Switch its access point off", "Or give the router another range"],
  },
  "line-down": {
    title: "The internet line is down",
    breaks: "internet",
    ways: BY_ROUTER,
    weight: 4,
    after: { provider: 4, router: 1.5, nothing: 1.5 },
    reason: "A fault of the line stops everything behind the router",
    cure: ["Look at the router's lamp and start it again", "If nothing comes, the customer calls the provider"],
  },
  "login-page": {
    title: "The network wants a log-in on a page",
    breaks: "internet",
    ways: ["wifi", "cable", "hub", "logger"],
    weight: 1.5,
    after: { provider: 1.5, router: 1.5, nothing: 0.3 },
    reason: "Guest networks ask for a log-in, which no device can give",
    cure: ["Join the main network instead of the guests'", "Or have the device let through by its hardware address"],
  },
  "outbound-blocked": {
    title: "A firewall keeps it from getting out",
    breaks: "service-reached",
    ways: BY_ROUTER,
    weight: 3,
    after: { router: 2, provider: 1.5, nothing: 0.3 },
    reason: "Firms let out only what was asked for",
    cure: [
      "Give the customer the sheet of outbound ports",
      "Try it by a phone's hot spot to prove that it is the firewall",
    ],
  },
  dns: {
    title: "Names are not resolved",
    breaks: "name-and-clock",
    ways: BY_ROUTER,
    weight: 1.5,
    after: { router: 1.5, provider: 2 },
    reason: "A name server that is typed and gone, or blocked",
    cure: ["Let the router give the name server", "Or type one that answers in this network"],
  },
  "clock-wrong": {
    title: "Its clock is wrong, so no secured connection is made",
    breaks: "name-and-clock",
    ways: EVERY_WAY,
    weight: 1.5,
    after: { device: 1.5 },
    reason: "After long without power a clock begins in the past; certificates are then not valid",
    cure: ["Set date, time and zone", "Let it fetch the time: its port must be open"],
  },
  "service-down": {
    title: "The service itself is down",
    breaks: "service-reached",
    ways: EVERY_WAY,
    weight: 1.5,
    after: { nothing: 1.5 },
    reason: "Rare and short, and then of all sites at once",
    cure: ["Look at another site of the same service, or at its status page", "Wait; change nothing here"],
  },
  "not-registered": {
    title: "The service does not know the device",
    breaks: "accepted",
    ways: EVERY_WAY,
    weight: 5,
    after: { device: 5, nothing: 0.2 },
    reason: "A new or exchanged device is entered by its serial number before it is shown",
    cure: ["Enter its serial number in the service, character by character", "Wait for its next report"],
  },
  "other-account": {
    title: "It is registered in another account",
    breaks: "accepted",
    ways: EVERY_WAY,
    weight: 1.2,
    after: { device: 2, nothing: 0.3 },
    reason: "Of the installer before, or of a second try",
    cure: ["Have the account that holds it release it", "Then register it in this one"],
  },
  "firmware-needed": {
    title: "The service wants newer firmware",
    breaks: "accepted",
    ways: EVERY_WAY,
    weight: 2,
    after: { device: 2, firmware: 0.5 },
    reason: "A device that lay in store is too old for the service",
    cure: [
      "Put the firmware on as its manual says: by phone, card or the line",
      "Ask before: new firmware may shut out a local reader",
    ],
  },
  "encryption-changed": {
    title: "New firmware shuts out the local reader",
    breaks: "owner-sees",
    ways: ["logger", "hub", "cable", "wifi"],
    weight: 0.6,
    after: { firmware: 25 },
    reason: "Only after an update, and then at once",
    cure: [
      "Switch local access on again in the device, with its new key",
      "Or read another way; going back is seldom possible",
    ],
  },
  "old-connection-kept": {
    title: "An old connection was not removed before the new one",
    breaks: "data-arrives",
    ways: EVERY_WAY,
    weight: 2,
    after: { router: 2, device: 3, provider: 1.5, nothing: 0.4 },
    reason: "Two ways in confuse the service: it waits for the one that is gone",
    cure: ["Remove the old connection in the device and in the service", "Make the new one again"],
  },
  "sim-missing": {
    title: "There is no SIM, or it sits the wrong way",
    breaks: "interface-up",
    ways: ["cellular"],
    weight: 6,
    reason: "The notch, the size, or forgotten in the van",
    cure: ["Power off, put the SIM in the way its picture shows, power on", "Look at its size before the visit"],
  },
  "sim-not-active": {
    title: "The SIM is not active",
    breaks: "joined",
    ways: ["cellular"],
    weight: 7,
    reason: "A new SIM is switched on by its provider, which takes hours",
    cure: ["Have the provider switch it on, by its number", "Start the device again after that"],
  },
  "sim-pin": {
    title: "The SIM wants its PIN",
    breaks: "interface-up",
    ways: ["cellular"],
    weight: 5,
    reason: "Three wrong tries lock it",
    cure: ["Take the PIN off in a phone, or type it into the device", "Locked: its second code is needed"],
  },
  "apn-wrong": {
    title: "The provider's access-point name is wrong",
    breaks: "internet",
    ways: ["cellular"],
    weight: 7,
    after: { provider: 4, nothing: 0.2 },
    reason: "It is typed, and every provider has its own",
    cure: ["Type the name as the provider gives it, user and password too", "Start the device again"],
  },
  "data-used-up": {
    title: "The SIM's data is used up",
    breaks: "internet",
    ways: ["cellular"],
    weight: 3,
    after: { nothing: 3 },
    reason: "After weeks of work without any change; firmware takes most of it",
    cure: ["Look at the use in the provider's account", "A larger plan, or fewer reports"],
  },
  "no-coverage": {
    title: "No mobile network at this spot",
    breaks: "network-seen",
    ways: ["cellular"],
    weight: 7,
    reason: "Cellars and valleys; one provider's map is not another's",
    cure: ["Move the aerial up and out, on a longer lead", "Try another provider's SIM in a phone at the spot"],
  },
  "hub-not-sharing": {
    title: "The hub does not share its internet with this device",
    breaks: "internet",
    ways: ["hub", "logger"],
    weight: 9,
    after: { device: 1.5, firmware: 1.5 },
    reason: "Some hubs pass on readings only, or only once they are told to",
    cure: ["Switch sharing on in the hub, if its kit has it", "Else give the device its own way: cable or Wi-Fi"],
  },
  "hub-lost": {
    title: "The hub is not heard",
    breaks: "joined",
    ways: ["hub", "logger", "power-line"],
    weight: 9,
    after: { device: 2 },
    reason: "A hub that is off or was exchanged leaves all that hang on it alone",
    cure: ["Look whether the hub is on, then pair again", "Pair an exchanged hub with each of its devices"],
  },
  "line-noise": {
    title: "Something on the circuit disturbs the power line",
    breaks: "joined",
    ways: ["power-line"],
    weight: 11,
    reason: "Chargers and cheap supply units on the same circuit swallow the signal, often by time of day",
    cure: [
      "Unplug what is on the circuit, one by one, and watch how many units are heard",
      "An outlet of its own, without a strip, or a filter before the disturber",
    ],
  },
  "wrong-circuit": {
    title: "The gateway is on another phase or circuit than the units",
    breaks: "joined",
    ways: ["power-line"],
    weight: 11,
    reason: "The signal hardly crosses from one phase to another",
    cure: ["Plug the gateway in on the phase of the units, near their board", "Or have a phase coupler fitted"],
  },
  "lamp-misread": {
    title: "The lamp was misread: colour, rhythm or count",
    breaks: "owner-sees",
    ways: EVERY_WAY,
    weight: 1.5,
    reason: "Blinks are counted wrong in the sun, and colours look alike",
    cure: [
      "Watch the lamp for a whole minute in the shade, count the blinks of three groups",
      "Film it, and look again",
    ],
  },
  "wait-longer": {
    title: "It only needs longer",
    breaks: "data-arrives",
    ways: EVERY_WAY,
    weight: 10,
    after: { firmware: 2, device: 1.3 },
    reason: "Start, first contact, firmware and the first data take minutes each, and nothing shows it",
    cure: ["Wait, change nothing: every restart begins anew", "Do meanwhile what does not need it"],
  },
} as const satisfies Readonly<Record<string, Cause>>;

/** The id of a cause. */
export type CauseId = keyof typeof CAUSES;

/** The ids of all causes. */
export const CAUSE_IDS = Object.keys(CAUSES) as readonly CauseId[];

/**
 * A cause by its id.
 *
 * @example causeOf("dns").title // "Names are not resolved"
 */
export function causeOf(id: CauseId): Cause {
  return CAUSES[id];
}
