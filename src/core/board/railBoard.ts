import { clipSlots, railKey, type Slot } from "@/core/board/clipSlots";
import { drawnOrder } from "@/core/site/fitClamp";
import type { Conductor, Site, SiteNode } from "@/core/site/planSchema";
import { conductorsOf, siteTree } from "@/core/site/tree";

/** Sizes of a drawn board, in pixels before zoom. */
export interface BoardSizes {
  readonly railPitch: number;
  /** Room for a rail that carries a CT. */
  readonly clipPitch: number;
  readonly clipSize: number;
  /** Room beside each CT for what it should read and reads; 0 for none. */
  readonly tagWidth: number;
  readonly plateWidth: number;
  readonly plateHeight: number;
  readonly postWidth: number;
  readonly rowGap: number;
  /** Bare rail where a run begins, with room for the conductor's name, and where it ends. */
  readonly runStart: number;
  readonly runEnd: number;
  /** Room for the name of a post; no column is narrower. */
  readonly postLabelWidth: number;
  readonly margin: number;
}

/** The board to work on: CTs as large as a gloved thumb. */
export const WORKING_BOARD: BoardSizes = {
  railPitch: 17,
  clipPitch: 50,
  clipSize: 44,
  tagWidth: 264,
  plateWidth: 228,
  plateHeight: 60,
  postWidth: 26,
  rowGap: 10,
  runStart: 32,
  runEnd: 10,
  postLabelWidth: 172,
  margin: 14,
};

/** The board of a plan: no readings beside the CTs. */
export const PLAN_BOARD: BoardSizes = {
  railPitch: 15,
  clipPitch: 46,
  clipSize: 44,
  tagWidth: 0,
  plateWidth: 214,
  plateHeight: 56,
  postWidth: 22,
  rowGap: 10,
  runStart: 32,
  runEnd: 16,
  postLabelWidth: 128,
  margin: 14,
};

/** A small board that only shows a fitting. */
export const SMALL_BOARD: BoardSizes = {
  railPitch: 9,
  clipPitch: 26,
  clipSize: 24,
  tagWidth: 0,
  plateWidth: 112,
  plateHeight: 26,
  postWidth: 14,
  rowGap: 6,
  runStart: 18,
  runEnd: 12,
  postLabelWidth: 96,
  margin: 6,
};

/** A rectangle of the drawing, px. */
export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** A conductor of a run as a line, px. */
export interface DrawnRail {
  readonly run: string;
  readonly conductor: Conductor;
  readonly x1: number;
  readonly x2: number;
  readonly y: number;
  /** The whole strip that belongs to this rail: where a CT dropped lands on it. */
  readonly strip: Box;
}

/** A CT as it sits on its rail, px. */
export interface DrawnClip {
  readonly ct: string;
  /** Which conductor of the CT's window this is; 0 carries the tag. */
  readonly windowAt: number;
  readonly run: string;
  readonly conductor: Conductor;
  readonly box: Box;
  readonly tag: Box | undefined;
}

/** The plate of a device, a board or the supply, px. */
export interface DrawnNode {
  readonly node: SiteNode;
  /** A post feeds others to its right; a plate is where a run ends. */
  readonly shape: "post" | "plate";
  readonly box: Box;
  /** Where the node's name goes: on a plate itself, above a post. */
  readonly label: Box;
}

/** Where everything of a board is drawn, px. */
export interface RailBoardLayout {
  readonly width: number;
  readonly height: number;
  readonly nodes: readonly DrawnNode[];
  readonly rails: readonly DrawnRail[];
  readonly clips: readonly DrawnClip[];
}

/** Room above a post for its name, and for a device's power under it. */
const POST_LABEL_HEIGHT = 20;
const DEVICE_LABEL_HEIGHT = 38;

/**
 * Lay a site out as rails: the grid post at the left, every run a bundle of horizontal rails, boards (and
 * whatever else feeds others) as posts, the ends of runs as plates in one column at the right. Rails that
 * carry CTs get room for them; CTs on one rail stand in slots side by side. Nothing overlaps.
 *
 * For example: A house on one phase with one grid CT: 2 posts, 1 plate, 4 rails, 1 CT.
 */
export function railBoard(site: Site, sizes: BoardSizes = WORKING_BOARD): RailBoardLayout {
  const plan = new BoardPlan(site, sizes);
  return plan.layout();
}

class BoardPlan {
  private readonly tree;
  private readonly slots: ReadonlyMap<string, readonly Slot[]>;
  private readonly nodes: DrawnNode[] = [];
  private readonly rails: DrawnRail[] = [];
  private readonly clips: DrawnClip[] = [];
  private readonly depthOf = new Map<string, number>();

  constructor(
    private readonly site: Site,
    private readonly sizes: BoardSizes,
  ) {
    this.tree = siteTree(site);
    this.slots = clipSlots(site);
    this.noteDepth(this.tree.grid.id, 0);
  }

  layout(): RailBoardLayout {
    const { margin, plateWidth } = this.sizes;
    const posts = this.postColumns();
    const plates = this.plateColumn(posts);
    const top = margin + POST_LABEL_HEIGHT;
    const height = this.blockHeight(this.tree.grid);
    this.draw(this.tree.grid, top, { posts, plates });
    return {
      width: plates + plateWidth + margin,
      height: top + height + margin,
      nodes: this.nodes,
      rails: this.rails,
      clips: this.clips,
    };
  }

  private noteDepth(id: string, depth: number): void {
    this.depthOf.set(id, depth);
    for (const child of this.children(id)) this.noteDepth(child.id, depth + 1);
  }

  private children(id: string): readonly SiteNode[] {
    return this.tree.childrenOf.get(id) ?? [];
  }

  private isPost(node: SiteNode): boolean {
    return node.kind === "grid" || this.children(node.id).length > 0;
  }

  private runLength(node: SiteNode): number {
    const { clipSize, tagWidth, runStart, runEnd } = this.sizes;
    const most = conductorsOf(node, this.site).reduce(
      (max, conductor) => Math.max(max, ...this.onRail(node.id, conductor).map((slot) => slot.slot + 1)),
      0,
    );
    return runStart + runEnd + most * slotWidth(clipSize, tagWidth);
  }

  /** Left edge of each column of posts: as far right as the longest run that ends in the column needs. */
  private postColumns(): readonly number[] {
    const { margin, postWidth } = this.sizes;
    const columns = [margin];
    const posts = drawnOrder(this.site).filter((node) => this.isPost(node));
    for (let depth = 1; posts.some((node) => this.depthOf.get(node.id) === depth); depth++) {
      const longest = Math.max(
        ...posts.filter((node) => this.depthOf.get(node.id) === depth).map((node) => this.runLength(node)),
      );
      columns.push(columns[depth - 1]! + postWidth + Math.max(longest, this.sizes.postLabelWidth - postWidth));
    }
    return columns;
  }

  private plateColumn(posts: readonly number[]): number {
    const { postWidth } = this.sizes;
    const ends = drawnOrder(this.site)
      .filter((node) => !this.isPost(node))
      .map((node) => posts[this.depthOf.get(node.id)! - 1]! + postWidth + this.runLength(node));
    return Math.max(posts.at(-1)! + postWidth + this.sizes.postLabelWidth, ...ends);
  }

  private bundleHeight(node: SiteNode): number {
    return conductorsOf(node, this.site).reduce((sum, conductor) => sum + this.pitch(node.id, conductor), 0);
  }

  private pitch(run: string, conductor: Conductor): number {
    return this.onRail(run, conductor).length > 0 ? this.sizes.clipPitch : this.sizes.railPitch;
  }

  private onRail(run: string, conductor: Conductor): readonly Slot[] {
    return this.slots.get(railKey(run, conductor)) ?? [];
  }

  private blockHeight(node: SiteNode): number {
    const own = node.kind === "grid" ? 0 : this.bundleHeight(node);
    const children = this.children(node.id);
    if (children.length === 0) return Math.max(own, this.sizes.plateHeight);
    // A post further in carries its name above itself, in room of its own.
    const label = node.kind === "grid" ? 0 : labelHeight(node);
    const below =
      children.reduce((sum, child) => sum + this.blockHeight(child), 0) + (children.length - 1) * this.sizes.rowGap;
    return Math.max(own, below) + label;
  }

  private draw(node: SiteNode, top: number, columns: { posts: readonly number[]; plates: number }): void {
    const { postWidth, plateWidth, plateHeight, rowGap } = this.sizes;
    const height = this.blockHeight(node);
    const depth = this.depthOf.get(node.id)!;
    const x = this.isPost(node) ? columns.posts[depth]! : columns.plates;
    const inner =
      this.isPost(node) && node.kind !== "grid"
        ? { top: top + labelHeight(node), height: height - labelHeight(node) }
        : { top, height };
    // A run reaches its post at the top: on a tall board the CTs at the supply are then what is seen first.
    const bundle = this.isPost(node) ? { top: inner.top, height: this.bundleHeight(node) } : inner;
    if (node.kind !== "grid") this.drawRun(node, columns.posts[depth - 1]! + postWidth, x, bundle);
    if (!this.isPost(node)) {
      // As tall as its bundle, so that every rail ends on it.
      const plate = Math.max(plateHeight, this.bundleHeight(node));
      const box = { x, y: top + (height - plate) / 2, width: plateWidth, height: plate };
      this.nodes.push({ node, shape: "plate", box, label: box });
      return;
    }
    const children = this.children(node.id);
    const used =
      children.reduce((sum, child) => sum + this.blockHeight(child), 0) + Math.max(0, children.length - 1) * rowGap;
    let childTop = inner.top + (inner.height - used) / 2;
    const tops = children.map((child) => {
      const own = childTop;
      childTop += this.blockHeight(child) + rowGap;
      return own;
    });
    const post = node.kind === "grid" ? this.supplyPost(children, tops, inner) : inner;
    this.nodes.push({
      node,
      shape: "post",
      box: { x, y: post.top, width: postWidth, height: post.height },
      label: { x, y: post.top - labelHeight(node), width: this.sizes.postLabelWidth, height: labelHeight(node) },
    });
    for (const [at, child] of children.entries()) this.draw(child, tops[at]!, columns);
  }

  /** The supply's post is only as tall as the runs that leave it: beside the rest of the board is nothing of it. */
  private supplyPost(
    children: readonly SiteNode[],
    tops: readonly number[],
    inner: { readonly top: number; readonly height: number },
  ): { readonly top: number; readonly height: number } {
    const last = children.at(-1);
    if (!last) return inner;
    const runTop = (node: SiteNode, top: number) => top + (this.isPost(node) ? labelHeight(node) : 0);
    const runHeight = this.isPost(last) ? this.bundleHeight(last) : this.blockHeight(last);
    const top = runTop(children[0]!, tops[0]!);
    return { top, height: runTop(last, tops.at(-1)!) + runHeight - top };
  }

  private drawRun(node: SiteNode, x1: number, x2: number, block: { top: number; height: number }): void {
    const { clipSize, tagWidth, runStart } = this.sizes;
    const conductors = conductorsOf(node, this.site);
    let top = block.top + (block.height - this.bundleHeight(node)) / 2;
    // A plate is taller than a thin bundle: the outer rails' strips take what is left, for thumbs to hit.
    const spare = top - block.top;
    for (const [at, conductor] of conductors.entries()) {
      const pitch = this.pitch(node.id, conductor);
      const y = top + pitch / 2;
      const above = at === 0 ? spare : 0;
      const below = at === conductors.length - 1 ? spare : 0;
      this.rails.push({
        run: node.id,
        conductor,
        x1,
        x2,
        y,
        strip: { x: x1, y: top - above, width: x2 - x1, height: pitch + above + below },
      });
      for (const { ct, windowAt, slot } of this.onRail(node.id, conductor)) {
        const x = x1 + runStart + slot * slotWidth(clipSize, tagWidth);
        this.clips.push({
          ct,
          windowAt,
          run: node.id,
          conductor,
          box: { x, y: y - clipSize / 2, width: clipSize, height: clipSize },
          tag:
            windowAt === 0 && tagWidth > 0
              ? { x: x + clipSize + 4, y: y - clipSize / 2, width: tagWidth, height: clipSize }
              : undefined,
        });
      }
      top += pitch;
    }
  }
}

function labelHeight({ kind }: SiteNode): number {
  return kind === "grid" || kind === "board" ? POST_LABEL_HEIGHT : DEVICE_LABEL_HEIGHT;
}

function slotWidth(clipSize: number, tagWidth: number): number {
  return clipSize + (tagWidth > 0 ? tagWidth + 4 : 0) + 12;
}
