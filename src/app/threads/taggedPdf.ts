import layoutDocument from "@react-pdf/layout";
import renderPdf from "@react-pdf/render";
import { Font, pdf, type DocumentProps } from "@react-pdf/renderer";
import PDFDocument from "pdfkit";
import type { ReactElement } from "react";
import type { PdfTag } from "@/ui/print/pdfTag";

type Pdf = PDFKit.PDFDocument;
type Element = ReturnType<Pdf["struct"]>;
type Box = readonly [left: number, top: number, right: number, bottom: number];

/** What the renderer makes of a page, as far as tags need it. */
interface LaidOut {
  readonly type: string;
  /** Of a piece of text. */
  readonly value?: string;
  readonly props?: { readonly tag?: PdfTag; readonly fixed?: boolean; readonly paint?: () => null };
  readonly style?: Readonly<Record<string, unknown>>;
  readonly box?: Readonly<Record<string, number>>;
  readonly children?: readonly LaidOut[];
  /** Of a text. */
  readonly lines?: readonly unknown[];
}

interface LaidOutDocument {
  readonly children: readonly LaidOut[];
}

// Both take what the other gives; their types say less than what they do.
const layOut = layoutDocument as unknown as (document: object, fonts: object) => Promise<LaidOutDocument>;
const draw = renderPdf as unknown as (pdf: Pdf, document: LaidOutDocument) => void;
const BORDERS = ["borderTopWidth", "borderRightWidth", "borderBottomWidth", "borderLeftWidth"] as const;
const DRAWN: ReadonlySet<string> = new Set(["SVG", "IMAGE", "CANVAS"]);
const NO_BOX = { left: 0, top: 0, width: 1, height: 1 };

/**
 * Print a document with tags: what each part is and in which order it is read (ISO 32000-1, 14.8). The renderer lays
 * the pages out and draws them, and writes no tags: they are put between what it draws, from what the parts say of
 * themselves by `pdfTag`.
 */
export async function taggedPdf(document: ReactElement<object>): Promise<Uint8Array> {
  // The components' own props hide from the types that what they render is a Document.
  const { container } = pdf(document as ReactElement<DocumentProps>) as { container: { document: DocumentNode } };
  const { title = "", language = "en" } = container.document.props;
  const written = new PDFDocument({
    autoFirstPage: false,
    displayTitle: true,
    info: { Title: title, Creator: "Gormit", Producer: "Gormit", CreationDate: new Date() },
    lang: language,
    pdfVersion: "1.7",
    tagged: true,
  });
  const bytes = collected(written);
  const laidOut = await layOut(container.document, Font);
  const tags = new TagWriter(written);
  const pages = laidOut.children.map((page) => tags.page(page));
  draw(written, { ...laidOut, children: pages });
  return bytes;
}

interface DocumentNode {
  readonly props: { readonly title?: string; readonly language?: string };
}

function collected(stream: Pdf): Promise<Uint8Array> {
  return new Promise((resolve, reject) => {
    const parts: Buffer[] = [];
    stream.on("data", (part: Buffer) => parts.push(part));
    stream.on("end", () => resolve(new Uint8Array(Buffer.concat(parts))));
    stream.on("error", reject);
  });
}

/** A part that what comes next is in. */
interface OpenPart {
  readonly element: Element;
  /** What a link says; undefined of what is none. */
  readonly link?: string;
}

class TagWriter {
  private readonly open: [OpenPart, ...OpenPart[]];
  /** What goes on over the end of a page is one and the same there. */
  private readonly begun = new Map<PdfTag, Element>();

  constructor(private readonly pdf: Pdf) {
    const root = pdf.struct("Document");
    pdf.addStructure(root);
    this.open = [{ element: root }];
    this.nameLinks();
  }

  /** A page as it was laid out, with the tags between what is drawn. */
  page(page: LaidOut): LaidOut {
    return { ...page, children: (page.children ?? []).flatMap((child) => this.tagged(child, 0, 0)) };
  }

  private tagged(node: LaidOut, left: number, top: number): readonly LaidOut[] {
    const { type, props = {}, box = NO_BOX } = node;
    const [x, y] = [left + (box.left ?? 0), top + (box.top ?? 0)];
    // A foot line is no part of what is read.
    if (props.fixed) return this.artifact(node);
    if (DRAWN.has(type)) {
      if (!props.tag?.alt) return this.artifact(node);
      return this.content(node, props.tag, [x, y, x + (box.width ?? 0), y + (box.height ?? 0)]);
    }
    // A text that went on to the next page as a whole leaves nothing behind that could be read.
    if (type === "TEXT" && !node.lines?.length) return [node];
    if (type === "TEXT") return [...this.ground(node), ...this.content(bare(node), props.tag)];
    const inner = { ...bare(node), children: (node.children ?? []).flatMap((child) => this.tagged(child, x, y)) };
    const role = type === "LINK" ? "Link" : props.tag?.role;
    if (!role) return [...this.ground(node), inner];
    return [
      ...this.ground(node),
      hook(() => {
        const element = this.element(role, props.tag);
        this.open.push(type === "LINK" ? { element, link: wordsIn(node) } : { element });
      }),
      inner,
      hook(() => this.open.pop()),
    ];
  }

  /** Words or a picture: its marks on the page, and the part that they are of. */
  private content(node: LaidOut, tag: PdfTag | undefined, bbox?: Box): readonly LaidOut[] {
    return [
      hook(() => {
        const role = tag?.role ?? (this.inner.link === undefined ? "P" : "Span");
        this.element(role, tag, bbox).add(this.pdf.markStructureContent(role) as never);
      }),
      node,
      hook(() => this.pdf.endMarkedContent()),
    ];
  }

  /** What is there for the looks alone. */
  private artifact(node: LaidOut): readonly LaidOut[] {
    const type = node.props?.fixed ? "Pagination" : "Layout";
    return [hook(() => this.pdf.markContent("Artifact", { type })), node, hook(() => this.pdf.endMarkedContent())];
  }

  /** The lines and the colour behind a part, which are no part of it. */
  private ground(node: LaidOut): readonly LaidOut[] {
    const isSeen = node.style?.backgroundColor || BORDERS.some((side) => node.box?.[side]);
    return isSeen ? this.artifact({ ...node, type: "VIEW", props: {}, children: [] }) : [];
  }

  private element(role: string, tag: PdfTag | undefined, bbox?: Box): Element {
    const before = tag && this.begun.get(tag);
    if (before) return before;
    const made = this.pdf.struct(role, {
      ...(tag?.alt ? { alt: tag.alt } : {}),
      ...(bbox ? { bbox: [...bbox] } : {}),
      ...(role === "TH" ? { scope: "Column" } : {}),
    });
    this.inner.element.add(made);
    if (tag) this.begun.set(tag, made);
    return made;
  }

  private get inner(): OpenPart {
    return this.open.at(-1)!;
  }

  /** A link says what it is, and is a part of what is read. */
  private nameLinks(): void {
    const goTo = this.pdf.goTo.bind(this.pdf);
    this.pdf.goTo = (x, y, width, height, name, options) => {
      const { element, link } = this.inner;
      // Text in a dictionary is an object of its own to the library; what is none is a name.
      const contents = new String(link) as string;
      return goTo(x, y, width, height, name, {
        ...options,
        ...(link === undefined ? {} : { structParent: element, Contents: contents }),
      });
    };
  }
}

function wordsIn({ value = "", children = [] }: LaidOut): string {
  return value + children.map(wordsIn).join("");
}

/** A part without the lines and the colour behind it. */
function bare(node: LaidOut): LaidOut {
  const { backgroundColor: _, ...style } = node.style ?? {};
  return { ...node, style, box: { ...node.box, ...Object.fromEntries(BORDERS.map((side) => [side, 0])) } };
}

/** Something to be done between what is drawn before and what is drawn after it. */
function hook(act: () => unknown): LaidOut {
  const paint = () => {
    act();
    return null;
  };
  return { type: "CANVAS", props: { paint }, style: {}, box: NO_BOX };
}
