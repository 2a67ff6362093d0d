import { kitSchema } from "@/core/kits/kitSchema";
import type { LibraryKit } from "@/core/kits/libraryKit";
import { manyKits, maybeKit } from "@/db/kit";
import { shippedFiles } from "@/app/library/shippedFiles";

/** Shipped files do not change while the program runs. */
let shipped: Promise<readonly LibraryKit[]> | undefined;

/** The kits that ship with the program. */
export function shippedKits(): Promise<readonly LibraryKit[]> {
  shipped ??= shippedFiles("kits", kitSchema).then((files) => files.map(({ value, text }) => ({ kit: value, text, origin: "shipped" as const })));
  return shipped;
}

/** Shipped kits and those that users brought in, by name. */
export async function kitLibrary(): Promise<readonly LibraryKit[]> {
  const kits = [...await shippedKits(), ...await manyKits()];
  return kits.toSorted((a, b) => a.kit.name.localeCompare(b.kit.name, "en"));
}

/** One kit of the library. */
export async function maybeLibraryKit(id: string): Promise<LibraryKit | undefined> {
  return (await shippedKits()).find(({ kit }) => kit.id === id) ?? maybeKit(id);
}
