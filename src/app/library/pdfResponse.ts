import { renderToBuffer, type DocumentProps } from "@react-pdf/renderer";
import type { ReactElement } from "react";
import { registerPdfFonts } from "@/app/library/pdfFonts";

registerPdfFonts();

/** A document as a PDF that the browser shows. */
export async function pdfResponse(name: string, document: ReactElement<object>): Promise<Response> {
  // The components' own props hide from the types that what they render is a Document.
  const pdf = await renderToBuffer(document as ReactElement<DocumentProps>);
  return new Response(new Uint8Array(pdf), { headers: { "content-type": "application/pdf", "content-disposition": `inline; filename="${name}.pdf"` } });
}
