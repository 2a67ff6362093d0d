import type { Kit } from "@/core/kits/kitSchema";
import type { NodeKind } from "@/core/site/planSchema";
import type { FlowWord } from "@/core/site/flowWords";

/** The parts of an owner's page, in their order. */
export const OWNER_PARTS = ["picture", "shows", "lamps", "surplus", "usual", "router", "call"] as const;

/** One part of an owner's page. */
export type OwnerPartId = (typeof OWNER_PARTS)[number];
/** Where what is left over goes, one after the other. */
export type SurplusPlace = "battery" | "heater" | "vehicle";

/**
 * Every word of the owner's page in one language, and the sentences that hold values. A new language is a file that has
 * all of these, and a line in `ownerLanguages`. What a kit's maker calls something stays as the kit has it.
 */
export interface OwnerWords {
  /** What is said of the page in its head, and by the buttons on it. */
  readonly title: string;
  readonly otherLanguages: string;
  readonly foot: string;
  readonly parts: Readonly<Record<OwnerPartId, string>>;
  readonly flows: Readonly<Record<FlowWord, string>>;
  /** What a plus and a minus on a meter's display say. */
  readonly plusMinus: (meter: string, plus: string, minus: string) => string;
  /** Colours that the kits' lamps have; another one stays as it is. */
  readonly colours: Readonly<Record<string, string>>;
  readonly rhythms: Readonly<Record<Kit["lamps"][number]["pattern"], string>>;
  readonly times: (count: number) => string;
  readonly lamp: (device: string, lamp: string, look: string) => string;
  /** What each kind of device does. */
  readonly does: Readonly<Partial<Record<NodeKind, string>>>;
  readonly pictureAbout: (first: string) => string;
  readonly places: Readonly<Record<SurplusPlace, string>>;
  readonly surplus: (places: readonly string[]) => string;
  readonly surplusRest: (limitW: number | undefined) => string;
  readonly lag: (minutes: number) => string;
  readonly solarSleeps: string;
  readonly newBattery: string;
  readonly hotTank: string;
  readonly chargerWaits: string;
  readonly asManual: (device: string) => string;
  readonly firstRouter: string;
  readonly call: readonly string[];
}
