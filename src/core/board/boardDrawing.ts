import { railBoard, type BoardSizes, type DrawnClip, type RailBoardLayout } from "@/core/board/railBoard";
import type { Drawing, DrawnShape } from "@/core/drawing";
import { COLOUR_SCHEMES, type ColourScheme } from "@/core/site/conductorColours";
import { inputTag } from "@/core/site/inputTag";
import type { Site } from "@/core/site/planSchema";
import { cutText } from "@/core/text";

/** The board on paper: names in whole, the CTs small. */
const PRINTED_BOARD: BoardSizes = {
  railPitch: 9,
  clipPitch: 24,
  clipSize: 22,
  tagWidth: 0,
  plateWidth: 130,
  plateHeight: 22,
  postWidth: 12,
  rowGap: 6,
  runStart: 26,
  runEnd: 12,
  postLabelWidth: 110,
  margin: 6,
};
const INK = "#000000";
const PAPER = "#ffffff";
const POST = "#555555";
const RAIL_WIDTH = 2.5;
const OUTLINE = 1.5;
const NAME_SIZE = 8;
const TAG_SIZE = 7;
/** A character of the report's font is about so wide, in parts of its size. */
const CHARACTER = 0.55;

/**
 * The rail board of a site as a drawing, with the CTs as they are fitted: where each sits, which way its arrow points,
 * and its tag. Conductors have the colours of the scheme, outlined, and their names.
 *
 * For example: a house on one phase with one CT at the supply: one box "A1" with a head that points to the loads.
 */
export function boardDrawing(site: Site, scheme: ColourScheme): Drawing {
  const layout = railBoard(site, PRINTED_BOARD);
  return {
    title: "The board, with the CTs as fitted",
    about: site.cts.map((ct) => aboutCt(site, ct)).join("; ") || "No CT is fitted",
    width: layout.width,
    height: layout.height,
    shapes: [
      ...railShapes(layout, scheme),
      ...layout.nodes.flatMap((node) => nodeShapes(node)),
      ...layout.clips.flatMap((clip) => clipShapes(site, clip)),
    ],
  };
}

function aboutCt(site: Site, { plug, around, arrow }: Site["cts"][number]): string {
  const tag = plug ? inputTag(site, plug.meter, plug.input) : "A CT without an input";
  const round = around.map(({ run, conductor }) => `${conductor} of ${nameOf(site, run)}`).join(" and ");
  return `${tag} round ${round || "nothing"}, arrow ${arrow === "to-load" ? "to the loads" : "to the grid"}`;
}

function nameOf(site: Site, run: string): string {
  return site.nodes.find(({ id }) => id === run)?.name ?? run;
}

function railShapes({ rails }: RailBoardLayout, scheme: ColourScheme): readonly DrawnShape[] {
  const { colours } = COLOUR_SCHEMES[scheme];
  return rails.flatMap(({ conductor, x1, x2, y }): DrawnShape[] => [
    { kind: "line", x1, x2, y1: y, y2: y, colour: INK, width: RAIL_WIDTH + OUTLINE },
    { kind: "line", x1, x2, y1: y, y2: y, colour: colours[conductor].hex, width: RAIL_WIDTH },
    { kind: "box", x: x1 + 4, y: y - 4, width: 13, height: 8, fill: PAPER, stroke: POST },
    { kind: "text", x: x1 + 10.5, y: y + 2.5, size: TAG_SIZE - 0.5, words: conductor, bold: true, anchor: "middle" },
  ]);
}

function nodeShapes({ node, shape, box, label }: RailBoardLayout["nodes"][number]): readonly DrawnShape[] {
  const room = Math.floor((label.width - 6) / (CHARACTER * NAME_SIZE));
  const words = cutText(node.name, room);
  const isPost = shape === "post";
  return [
    { kind: "box", ...box, fill: isPost ? (node.kind === "grid" ? PAPER : POST) : PAPER, stroke: INK },
    {
      kind: "text",
      x: label.x + (isPost ? 0 : 4),
      y: isPost ? label.y + 0.75 * label.height : label.y + label.height / 2 + NAME_SIZE / 3,
      size: NAME_SIZE,
      words,
      bold: true,
      anchor: "start",
    },
  ];
}

function clipShapes(site: Site, { ct: id, box }: DrawnClip): readonly DrawnShape[] {
  const ct = site.cts.find((own) => own.id === id);
  const words = ct?.plug ? inputTag(site, ct.plug.meter, ct.plug.input) : "–";
  const middle = box.x + box.width / 2;
  const points = ct?.arrow === "to-grid" ? "left" : "right";
  const size = 6;
  return [
    { kind: "box", ...box, fill: PAPER, stroke: INK },
    { kind: "text", x: middle, y: box.y + 9, size: TAG_SIZE, words, bold: true, anchor: "middle" },
    { kind: "head", x: middle + (points === "right" ? size / 2 : -size / 2), y: box.y + 16, points, size },
  ];
}
