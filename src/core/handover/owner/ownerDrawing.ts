import type { OwnerWords } from "@/core/handover/owner/words/ownerWords";
import type { Drawing, DrawnShape } from "@/core/drawing";
import type { NodeKind, Site, SiteNode } from "@/core/site/planSchema";
import { siteTree } from "@/core/site/tree";
import { cutText } from "@/core/text";

const WIDTH = 360;
const MARGIN = 6;
const INDENT = 24;
const HEIGHT = 42;
const GAP = 10;
/** Where a branch leaves its box, from its left. */
const STEM = 12;
const NAME_SIZE = 14;
const DOES_SIZE = 11;
const CHARACTER = 0.52;
const MOST_DEPTH = 6;
const INK = "#000000";
const PAPER = "#ffffff";
/** Power comes from these, or both ways. */
const GIVES: readonly NodeKind[] = ["pv-inverter", "generator"];
const BOTH: readonly NodeKind[] = ["battery-inverter", "hybrid-inverter"];

/**
 * What feeds what, for whoever lives there: a box for each device from the grid down, with what it does, and heads of
 * arrows by which way its power goes. No CT, no conductor and no place stands in it.
 *
 * For example: a solar inverter has a head that points out of it, a load one that points into it.
 */
export function ownerDrawing(site: Site, words: OwnerWords): Drawing {
  const rows = rowsOf(site);
  const top = (at: number) => MARGIN + at * (HEIGHT + GAP);
  return {
    title: words.parts.picture,
    about: words.pictureAbout(rows[0]?.node.name ?? ""),
    width: WIDTH,
    height: top(rows.length) - GAP + MARGIN,
    shapes: rows.flatMap(({ node, depth, parent }, at) => [
      ...(parent === undefined ? [] : branchShapes(node, left(depth), top(at), { x: left(depth - 1), y: top(parent) })),
      ...boxShapes(node, left(depth), top(at), words),
    ]),
  };
}

interface Row {
  readonly node: SiteNode;
  readonly depth: number;
  /** The row of what feeds it. */
  readonly parent: number | undefined;
}

function rowsOf(site: Site): readonly Row[] {
  const { grid } = siteTree(site);
  const rows: Row[] = [];
  const add = (node: SiteNode, depth: number, parent: number | undefined) => {
    const at = rows.push({ node, depth, parent }) - 1;
    for (const child of site.nodes.filter(({ fedFrom }) => fedFrom === node.id)) add(child, depth + 1, at);
  };
  add(grid, 0, undefined);
  return rows;
}

/** A plan that branches deeper than a page is wide goes straight down from there. */
function left(depth: number): number {
  return MARGIN + Math.min(depth, MOST_DEPTH) * INDENT;
}

function branchShapes(
  { kind }: SiteNode,
  x: number,
  y: number,
  parent: { readonly x: number; readonly y: number },
): readonly DrawnShape[] {
  const stem = Math.min(parent.x, x - INDENT) + STEM;
  const middle = y + HEIGHT / 2;
  const head = (points: "left" | "right", tip: number): DrawnShape => ({
    kind: "head",
    x: tip,
    y: middle,
    points,
    size: 7,
  });
  return [
    { kind: "line", x1: stem, y1: parent.y + HEIGHT, x2: stem, y2: middle, colour: INK, width: 2 },
    { kind: "line", x1: stem, y1: middle, x2: x, y2: middle, colour: INK, width: 2 },
    ...(GIVES.includes(kind) || BOTH.includes(kind) ? [head("left", stem)] : []),
    ...(GIVES.includes(kind) ? [] : [head("right", x)]),
  ];
}

function boxShapes({ kind, name }: SiteNode, x: number, y: number, { does }: OwnerWords): readonly DrawnShape[] {
  const width = WIDTH - MARGIN - x;
  const fits = (words: string, size: number) => cutText(words, Math.floor((width - 16) / (CHARACTER * size)));
  return [
    { kind: "box", x, y, width, height: HEIGHT, fill: PAPER, stroke: INK },
    { kind: "text", x: x + 8, y: y + 17, size: NAME_SIZE, words: fits(name, NAME_SIZE), bold: true, anchor: "start" },
    {
      kind: "text",
      x: x + 8,
      y: y + 34,
      size: DOES_SIZE,
      words: fits(does[kind] ?? "", DOES_SIZE),
      bold: false,
      anchor: "start",
    },
  ];
}
