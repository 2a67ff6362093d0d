import { hasKit } from "@/core/plan/resolve";
import type { Device, KitDevice } from "@/core/plan/resolvedPlan";
import type { SiteNode } from "@/core/site/planSchema";
import type { BackupSide } from "@/core/visit/provingStates";
import type { VisitContext } from "@/core/visit/visitContext";

/** How a board gets its supply. */
export interface BoardFeed {
  readonly board: SiteNode;
  /** What has to run before the grid gets there: an inverter with a backup output; undefined at any other board. */
  readonly behind: KitDevice | undefined;
  /** What feeds it while the grid is gone; undefined where nothing does. */
  readonly island: KitDevice | undefined;
}

/** The boards that this visit switches off, each with what feeds it, from the supply on. */
export function boardFeeds(context: VisitContext): readonly BoardFeed[] {
  const { scope, plan } = context;
  const depth = (id: string) => {
    let count = 0;
    for (let device = plan.deviceById.get(id); device; device = device.parent) count++;
    return count;
  };
  return scope.boards.map((board) => feedOf(context, board)).toSorted((a, b) => depth(a.board.id) - depth(b.board.id));
}

/** The backup side of a site and what feeds it alone; undefined where there is none. */
export function maybeIsland(context: VisitContext): (BoardFeed & { readonly island: KitDevice }) | undefined {
  return context.boards
    .map((board) => feedOf(context, board))
    .find((feed): feed is BoardFeed & { readonly island: KitDevice } => feed.island !== undefined);
}

/** The same as a proof takes it: the board, and the device on a run that feeds it alone. */
export function maybeBackupSide(context: VisitContext): BackupSide | undefined {
  const feed = maybeIsland(context);
  return feed?.island.node && { source: feed.island.node, board: feed.board };
}

/** What feeds a board: an inverter above it, or, at a backup box, the inverter that hangs on it. */
function feedOf({ plan, worked }: VisitContext, board: SiteNode): BoardFeed {
  const hasStore = worked.some(({ kit }) => kit.kind === "battery" || kit.kind === "battery-inverter");
  const device = plan.deviceById.get(board.id);
  const behind = device && maybeInverterAbove(device);
  const inBox =
    device?.kit?.kind === "backup-box"
      ? plan.nodes.filter(hasKit).find((own) => isIslandSource(own) && own.parent?.id === board.id)
      : undefined;
  const source = behind ?? inBox;
  return { board, behind, island: source && hasStore ? source : undefined };
}

function maybeInverterAbove(device: Device): KitDevice | undefined {
  for (let above = device.parent; above; above = above.parent) if (isIslandSource(above)) return above;
  return undefined;
}

function isIslandSource(device: Device): device is KitDevice {
  return device.kit?.kind === "hybrid-inverter" || device.kit?.kind === "battery-inverter";
}
