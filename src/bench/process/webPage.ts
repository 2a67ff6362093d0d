import type http from "node:http";

/** One line of a page: text, or what is made here of text that was escaped. */
export type PageLine = { readonly text: string } | { readonly html: string };

/** A small page of a stand-in. */
export function page(
  response: http.ServerResponse,
  status: number,
  title: string,
  lines: readonly PageLine[] = [],
): void {
  const list = lines.map((line) => `<li>${"html" in line ? line.html : escaped(line.text)}</li>`).join("");
  const head = `<!doctype html><html lang="en"><title>${escaped(title)}</title><h1>${escaped(title)}</h1>`;
  response.writeHead(status, { "content-type": "text/html; charset=utf-8" });
  response.end(`${head}<ul>${list}</ul></html>`);
}

/** Text that a page takes for nothing but text. */
export function escaped(text: string): string {
  return text.replace(/[&<>"]/g, (character) => `&#${character.charCodeAt(0)};`);
}
