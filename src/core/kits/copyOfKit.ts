import { parseDocument } from "yaml";
import { MOST_NAME_CHARACTERS } from "@/core/names";
import { cutText } from "@/core/text";
import type { LibraryKit } from "@/core/kits/libraryKit";

const COPY = " (copy)";

/**
 * The text of a kit under an id and a name that are still free, to be edited. Comments and order stay.
 *
 * For example: `copyOfKit(meter, ["meter-three-5a"])` gives … id: meter-three-5a-copy, name: … (copy)
 */
export function copyOfKit({ kit, text }: LibraryKit, takenIds: readonly string[]): string {
  const document = parseDocument(text);
  document.set("id", freeId(kit.id, takenIds));
  document.set("name", `${cutText(kit.name, MOST_NAME_CHARACTERS - COPY.length)}${COPY}`);
  return document.toString({ lineWidth: 0, flowCollectionPadding: false });
}

function freeId(id: string, takenIds: readonly string[]): string {
  const base = `${id.replace(/-copy(-\d+)?$/, "").slice(0, 55)}-copy`;
  if (!takenIds.includes(base)) return base;
  for (let number = 2; ; number++) if (!takenIds.includes(`${base}-${number}`)) return `${base}-${number}`;
}
