import type { KitDevice, PlanLink } from "@/core/plan/resolvedPlan";
import { isSolar } from "@/core/visit/visitContext";
import type { VisitRule } from "@/core/visit/visitRule";
import type { StepDraft } from "@/core/visit/visitStep";

/** What shows that a contact does what it is there for: each is given once, and what it reaches is looked at. */
export const CONTACT_RULES: readonly VisitRule[] = [
  {
    id: "contact",
    yields: ({ plan, scope }) =>
      plan.links
        .filter(
          ({ kind, id, whole }) =>
            kind === "dry-contact" &&
            whole?.length === 2 &&
            scope.touched.has(id) &&
            // A generator is started in its own step, alone and with the grid off.
            !whole.some(({ device }) => device.kit.kind === "generator"),
        )
        .map(contactStep),
  },
];

function contactStep(link: PlanLink): StepDraft {
  const [giver, taker] = link.whole!;
  const isStop = giver!.device.kit.kind === "switch";
  const stopped = isStop && isSolar(taker!.device);
  return {
    tag: "contact",
    stage: "prove",
    title: `Prove the contact: ${link.name}`,
    place: giver!.device.place?.id ?? taker!.device.place?.id,
    about: link.id,
    why: "A contact that nobody gave once is a wire to somewhere",
    activeMin: 3,
    source: "Contacts of the plan; how it is given is in the maker's manual",
    ...(stopped
      ? {
          caution:
            "A stop by a contact isolates nothing: strings stay live, and the DC link holds its charge. For work, " +
            "isolate and prove dead.",
        }
      : {}),
    content: [
      { label: "Give it", value: `${giver!.device.name}, ${giver!.port.label}: ${giveWords(giver!.device)}` },
      {
        label: "It reaches",
        value: `${taker!.device.name}, ${taker!.port.label}: ${stopped ? "feeds nothing within seconds" : "answers"}`,
      },
      { label: "Take it back", value: stopped ? "it starts again by itself after its reconnect time" : "as it was" },
    ],
    evidence: {
      kind: "choice",
      question: `Does ${taker!.device.name} answer, and only it?`,
      options: [
        { id: "yes", label: "Yes", isGood: true },
        { id: "other", label: "Another one answers", isGood: false, next: "Contacts are exchanged: follow each core" },
        {
          id: "no",
          label: "Nothing",
          isGood: false,
          next: "Measure the contact at the far terminals, open and closed; then the setting of the input",
        },
      ],
      outside: "Follow the cores of this contact from one end to the other",
    },
  };
}

/** How a contact is given on site: a switch is pressed; the operator's box is asked for, or bridged at our end. */
function giveWords({ kit }: KitDevice): string {
  if (kit.kind === "switch") return "press it";
  if (kit.kind === "receiver")
    return "ask its owner for a test signal, or bridge one contact after the other at our end; its cover stays shut";
  return "by its menu or test function";
}
