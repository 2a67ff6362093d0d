import { accessPointWords } from "@/core/online/accessPointName";
import type { KitDevice } from "@/core/plan/resolvedPlan";
import { inputTag } from "@/core/site/inputTag";
import { arrowWords } from "@/core/site/arrowWords";
import { windowText } from "@/core/job/placeFindings";
import { isSetUp, settingsOf } from "@/core/visit/rules/settings";
import type { VisitContext } from "@/core/visit/visitContext";
import type { VisitRule } from "@/core/visit/visitRule";

const PRACTICE = "Service: what changed, restart first if nothing did, reach, enter, see the service, compare";
/** What a device does until it is back. */
const USUAL_START_S = 120;

/** What is done with what stands there already: asked about, restarted, told, brought online, compared. */
export const SERVICE_RULES: readonly VisitRule[] = [
  {
    id: "ask",
    yields: ({ site }) => [
      {
        tag: "ask",
        stage: "arrive",
        title: "Ask what changed",
        place: site.places[0]?.id,
        why: "If nothing of the network changed, a restart comes before any setting",
        activeMin: 3,
        source: PRACTICE,
        evidence: {
          kind: "choice",
          question: "What changed since it last worked?",
          options: [
            { id: "nothing", label: "Nothing: restart first", isGood: true },
            { id: "router", label: "Router, passphrase or network name", isGood: true },
            { id: "provider", label: "Provider, tariff or SIM", isGood: true },
            { id: "device", label: "A device, or its firmware", isGood: true },
          ],
          outside: "Ask again",
        },
      },
    ],
  },
  {
    id: "restart",
    yields: (context) =>
      reachedOf(context).map((item) => ({
        tag: "restart",
        stage: "online" as const,
        title: `Restart ${item.name}`,
        place: item.place?.id,
        about: item.id,
        why: "Only where nothing of the network changed: it finds its old network again by itself",
        activeMin: 2,
        waitMin: (item.kit.timers.bootS ?? USUAL_START_S) / 60,
        waiting: { what: "boot" as const, label: `${item.name} starts` },
        source: PRACTICE,
        caution: "By its own menu or app, or as the maker's manual says; no cover is opened for it.",
      })),
  },
  {
    id: "enter-network",
    yields: (context) =>
      reachedOf(context).map((item) => ({
        tag: "enter-network",
        stage: "online" as const,
        title: `Enter the customer's network at ${item.name}`,
        place: item.place?.id,
        about: item.id,
        why: "The owner types or reads out the passphrase; copied by hand it is often wrong",
        activeMin: 5,
        source: `Kit ${item.kit.id}, network`,
        content: networkLines(context, item),
        caution: "The passphrase is the customer's: it is typed into the device, and written down nowhere.",
      })),
  },
  {
    id: "as-found",
    yields: ({ plan, site }) =>
      plan.meters.map(({ meter, inputs }) => ({
        tag: "as-found",
        stage: "arrive" as const,
        title: `Read ${meter.name} as found`,
        place: meter.place,
        about: meter.id,
        why: "With covers on, before anything is touched: the difference afterwards is the proof",
        activeMin: 3,
        source: "Prove weighs what is seen, and names what is to be opened",
        wantsPhoto: true,
        content: inputs.map(({ input }) => ({
          label: inputTag(site, meter.id, input.n),
          value: `${windowText(site, input.measures)}: size, sign, and importing or exporting; type it under Prove`,
        })),
      })),
  },
  {
    id: "tell",
    yields: (context) =>
      context.worked.filter(isSetUp).map((item) => ({
        tag: "tell",
        stage: "configure" as const,
        title: `Tell ${item.name} what is new`,
        place: item.place?.id,
        about: item.id,
        why: "It was set before this was there",
        activeMin: 6,
        source: `Kit ${item.kit.id}, plan and links`,
        content: [...newBeside(context, item), ...settingsOf(context, item)],
        wantsPhoto: true,
      })),
  },
  {
    id: "compare",
    yields: ({ plan, site }) => [
      {
        tag: "compare",
        stage: "close",
        title: "Compare with the readings at hand over",
        place: site.places[0]?.id,
        why: "What was right before must still be right",
        activeMin: 5,
        source: PRACTICE,
        wantsPhoto: true,
        content: plan.meters.flatMap(({ meter, inputs }) =>
          inputs.map(({ input }) => ({
            label: inputTag(site, meter.id, input.n),
            value: `${windowText(site, input.measures)}, positive is flow ${arrowWords(input.positive)}`,
          })),
        ),
      },
    ],
  },
];

function reachedOf({ worked, scope }: VisitContext): readonly KitDevice[] {
  return worked.filter(({ id, kit }) => scope.reached.has(id) && kit.network !== undefined);
}

/** What the plan knows of the customer's network, and what the device hears of it. */
function networkLines({ plan: { network } }: VisitContext, { kit }: KitDevice) {
  const heard = kit.network!.bandsGhz.map((band) => `${band} GHz`).join(" and ");
  const point = kit.network!.accessPoint;
  return [
    ...(heard === "" ? [] : [{ label: "It hears", value: heard }]),
    ...(network.hiddenName ? [{ label: "Name", value: "hidden: it is typed, letter by letter" }] : []),
    ...(network.portal
      ? [{ label: "Sign-in page", value: "the network asks for one; the device cannot answer it" }]
      : []),
    { label: "Old connection", value: "removed first, where the device keeps several" },
    ...(point ? [{ label: "Afterwards", value: `its own network (${accessPointWords(point.name)}) is stopped` }] : []),
  ];
}

/** What this visit brings beside a device: meters and what hangs on the same links. */
function newBeside({ plan, scope }: VisitContext, item: KitDevice) {
  const meters = plan.meters.filter(({ id, host }) => host?.id === item.id && scope.touched.has(id));
  const others = item.links
    .filter(({ id }) => scope.touched.has(id))
    .flatMap(({ ends }) => ends.flatMap(({ device }) => (device && device.id !== item.id ? device.name : [])));
  const names = [...new Set([...meters.map(({ meter }) => meter.name), ...others])];
  return names.length === 0 ? [] : [{ label: "New", value: names.join(", ") }];
}
