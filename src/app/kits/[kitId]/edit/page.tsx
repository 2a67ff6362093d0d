import type { Metadata } from "next";
import { notFound } from "next/navigation";
import { connection } from "next/server";
import { kitLibrary } from "@/app/library/kitLibrary";
import { copyOfKit } from "@/core/kits/copyOfKit";
import { KitEditor } from "@/ui/kits/KitEditor";
import { APP_WORDS } from "@/ui/words/appWords";

export const metadata: Metadata = { title: APP_WORDS.editAKit };

/** Edit a kit of one's own, or a copy of one that ships with the program. */
export default async function Page({ params }: { params: Promise<{ kitId: string }> }) {
  await connection();
  const { kitId } = await params;
  const { kits: library } = await kitLibrary();
  const found = library.find(({ kit }) => kit.id === kitId);
  if (!found) notFound();
  const isOwn = found.origin === "own";
  const text = isOwn
    ? found.text
    : copyOfKit(
        found,
        library.map(({ kit }) => kit.id),
      );
  return (
    <KitEditor
      name={found.kit.name}
      initial={text}
      replaces={isOwn ? { id: kitId, revision: found.revision ?? 0 } : undefined}
    />
  );
}
