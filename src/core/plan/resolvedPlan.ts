import type { Finding } from "@/core/findings";
import type { Kit } from "@/core/kits/kitSchema";
import type { Link, LinkMember, Network } from "@/core/plan/linkSchema";
import type { DivertSettings } from "@/core/plan/divertSettings";
import type { LimitSettings } from "@/core/plan/limitSettings";
import type { Ct, Meter, MeterInput, Place, Site, SiteNode } from "@/core/site/planSchema";
import type { SiteTree } from "@/core/site/tree";

/** What a plan is made of: the parts of a job's document that are resolved. */
export interface PlanParts {
  readonly site: Site;
  readonly kits: readonly Kit[];
  readonly links: readonly Link[];
  readonly network?: Network | undefined;
  readonly limit?: LimitSettings | undefined;
  readonly divert?: DivertSettings | undefined;
}

/** A port of a kit. */
export type KitPort = Kit["ports"][number];
/** What a kit says of one of its inputs. */
export type KitInput = NonNullable<Kit["metering"]>["inputs"][number];

/** Something of a plan that is worked on: a device on a run, a meter, or equipment. */
export interface Device {
  readonly id: string;
  readonly name: string;
  readonly kit: Kit | undefined;
  readonly place: Place | undefined;
  /** Not there before this visit. */
  readonly isNew: boolean;
  /** The run that it stands on; meters and equipment have none. */
  readonly node: SiteNode | undefined;
  /** What feeds its run. */
  readonly parent: Device | undefined;
  /** What its run feeds. */
  readonly children: readonly Device[];
  /** The meters whose inputs are its own; a meter that is a unit by itself is its own. */
  readonly meters: readonly PlanMeter[];
  /** The links that it is in. */
  readonly links: readonly PlanLink[];
}

/** A device whose kit is in the plan. */
export type KitDevice = Device & { readonly kit: Kit };

/** A meter with what it is, where it hangs, and whose inputs it is. */
export interface PlanMeter {
  readonly id: string;
  readonly meter: Meter;
  readonly kit: Kit | undefined;
  /** The meter as something that is worked on by itself. */
  readonly self: Device;
  /** The device whose own inputs these are; undefined where it is a unit, or nobody said. */
  readonly host: Device | undefined;
  readonly inputs: readonly PlanInput[];
}

/** One input of a meter with what its kit says of it; those are undefined where the plan names no kit. */
export interface PlanInput {
  readonly meter: Meter;
  readonly input: MeterInput;
  readonly kit: Kit | undefined;
  readonly kitInput: KitInput | undefined;
  /** The CT's own kit, where one is chosen. */
  readonly ctKit: Kit | undefined;
  /** The CT that is plugged into it. */
  readonly clamp: Ct | undefined;
}

/** One end of a link: a member with what it stands for; undefined where that is gone from the plan. */
export interface LinkEnd {
  readonly member: LinkMember;
  readonly device: KitDevice | undefined;
  readonly port: KitPort | undefined;
  /** Cable from the member before it, m; undefined where none can be laid. */
  readonly cableM: number | undefined;
}

/** An end whose device and port are there. */
export type WholeEnd = LinkEnd & { readonly device: KitDevice; readonly port: KitPort };

/** What lies behind the half of a radio pair that is on a line: the air, and the line at the other half. */
export interface Beyond {
  readonly radio: PlanLink;
  /** The line behind the far half; undefined while there is none. */
  readonly line: PlanLink | undefined;
  readonly nearHalf: KitDevice | undefined;
  readonly farHalf: KitDevice | undefined;
}

/** A link with its real ends and the bus that it is of. */
export interface PlanLink extends Link {
  /** One for each member, in their order. */
  readonly ends: readonly LinkEnd[];
  /** The ends, where every one of them is there. */
  readonly whole: readonly WholeEnd[] | undefined;
  /** Between the places of its first two ends, as the plan has it for a direct way, m. */
  readonly straightM: number | undefined;
  /** Of a line with half of a radio pair: what its bus goes on with. */
  readonly beyond: Beyond | undefined;
  /** Whether it is the far side of a radio pair whose near side is planned: its devices are asked from there. */
  readonly isFarSide: boolean;
}

/** What is looked at in a plan: every check of a job has this form. */
export type Check = (plan: ResolvedPlan) => readonly Finding[];

/** A plan with everything that it names looked up, once. */
export interface ResolvedPlan {
  readonly site: Site;
  readonly kits: readonly Kit[];
  readonly network: Network;
  readonly limit: LimitSettings;
  readonly divert: DivertSettings;
  readonly tree: SiteTree;
  /** The devices on the runs, the supply and its boards among them, in the order of the plan. */
  readonly nodes: readonly Device[];
  readonly equipment: readonly Device[];
  readonly meters: readonly PlanMeter[];
  /** The inputs of all meters. */
  readonly inputs: readonly PlanInput[];
  /** Everything that has a kit with ports: on runs, equipment, meters that are units by themselves. */
  readonly joinable: readonly KitDevice[];
  readonly links: readonly PlanLink[];
  readonly kitById: ReadonlyMap<string, Kit>;
  readonly deviceById: ReadonlyMap<string, Device>;
  /** What is joinable, by its id. */
  readonly joinableById: ReadonlyMap<string, KitDevice>;
  readonly meterById: ReadonlyMap<string, PlanMeter>;
  readonly linkById: ReadonlyMap<string, PlanLink>;
}
