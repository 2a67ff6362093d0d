/** What a part of a page is, in the words of PDF (ISO 32000-1, 14.8.4). */
type PdfRole =
  "Caption" | "Figure" | "H1" | "H2" | "H3" | "P" | "Sect" | "TD" | "TH" | "TOC" | "TOCI" | "TR" | "Table" | "Title";

/** What a part of a page is to those who have it read out. */
export interface PdfTag {
  readonly role: PdfRole;
  /** What a picture shows, in words. */
  readonly alt?: string | undefined;
}

/**
 * What a part of a page is to those who have it read out: spread into its properties. Without it words are a
 * paragraph, and a drawing is there for the looks alone.
 *
 * For example: `<Text {...pdfTag("H1")}>Report</Text>`.
 */
export function pdfTag(role: PdfRole, alt?: string): { readonly tag: PdfTag } {
  return { tag: { role, alt } };
}
