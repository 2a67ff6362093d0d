import { kitSchema } from "@/core/kits/kitSchema";
import type { LibraryKit } from "@/core/kits/libraryKit";
import { manyKits, maybeKit, type BrokenKit } from "@/db/kit";
import { shippedFiles } from "@/app/library/shippedFiles";

/** Shipped files do not change while the program runs. */
let shipped: Promise<readonly LibraryKit[]> | undefined;

/** The kits that ship with the program. */
export function shippedKits(): Promise<readonly LibraryKit[]> {
  shipped ??= shippedFiles("kits", kitSchema).then((files) =>
    files.map(({ value, text }) => ({ kit: value, text, origin: "shipped" as const })),
  );
  return shipped;
}

/** Shipped kits and those that users brought in, by name; and what of the latter cannot be read. */
export async function kitLibrary(): Promise<{
  readonly kits: readonly LibraryKit[];
  readonly broken: readonly BrokenKit[];
}> {
  const own = await manyKits();
  return {
    kits: [...(await shippedKits()), ...own.kits].toSorted((a, b) => a.kit.name.localeCompare(b.kit.name, "en")),
    broken: own.broken,
  };
}

/** One kit of the library. */
export async function maybeLibraryKit(id: string): Promise<LibraryKit | undefined> {
  return (await shippedKits()).find(({ kit }) => kit.id === id) ?? maybeKit(id);
}
