import { isOnMains } from "@/core/visit/visitContext";
import { openedPlaces } from "@/core/visit/rules/siteRules";
import type { VisitRule } from "@/core/visit/visitRule";
import { joined } from "@/core/words";

const PRACTICE = "Order of work: label, close, leave tidy, hand over";

/** From the labels to the owner: what ends a visit. */
export const CLOSING_RULES: readonly VisitRule[] = [
  {
    id: "labels",
    yields: ({ boards, site }) => [
      {
        tag: "labels",
        stage: "close",
        title: "Labels on CTs, leads and breakers",
        place: boards[0]?.place ?? site.places[0]?.id,
        why: "Whoever opens it next must not guess",
        activeMin: 10,
        source: "Labels of the plan",
        wantsPhoto: true,
        content: [{ label: "Print", value: "Plan, Bring, Labels" }],
      },
    ],
  },
  {
    id: "covers",
    yields: (context) =>
      openedPlaces(context).map((place) => ({
        tag: "covers",
        stage: "close" as const,
        title: `Covers on at ${context.placeName(place)}`,
        place,
        about: place,
        why: "Only now that every reading is proved",
        activeMin: 5,
        source: PRACTICE,
        wantsPhoto: true,
        caution: "Isolate again where a cover cannot be closed without reaching past live parts.",
      })),
  },
  {
    id: "tidy",
    yields: ({ boards, site }) => [
      {
        tag: "tidy",
        stage: "close",
        title: "Leave the site tidy",
        place: boards[0]?.place ?? site.places[0]?.id,
        why: "Offcuts, swarf and tools are out of every enclosure and off the floor",
        activeMin: 8,
        source: PRACTICE,
      },
    ],
  },
  {
    id: "owner",
    yields: ({ boards, site, worked }) => [
      {
        tag: "owner",
        stage: "close",
        title: "Show the owner what they will see",
        place: boards[0]?.place ?? site.places[0]?.id,
        why: "Who knows what is usual sees what is not",
        activeMin: 10,
        source: PRACTICE,
        content: [
          { label: "Display", value: "importing and exporting, generating, charging: which word means which" },
          {
            label: "Switches",
            value: `where to switch off ${joined(worked.filter(isOnMains).map(({ name }) => name)) || "the supply"}`,
          },
          { label: "Leave", value: "the makers' manuals, and whom to call" },
        ],
      },
    ],
  },
];
