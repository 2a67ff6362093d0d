import type { Metadata } from "next";
import { notFound, permanentRedirect } from "next/navigation";
import { connection } from "next/server";
import { maybeLibraryKit } from "@/app/library/kitLibrary";
import { presentKitId } from "@/core/kits/presentKitId";
import { manyJobsWithKit } from "@/db/kit";
import { KitPage } from "@/ui/kits/KitPage";
import { APP_WORDS } from "@/ui/words/appWords";

interface Props {
  readonly params: Promise<{ kitId: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  await connection();
  return { title: (await maybeLibraryKit((await params).kitId))?.kit.name ?? APP_WORDS.noSuchKit };
}

export default async function Page({ params }: Props) {
  await connection();
  const { kitId } = await params;
  const found = await maybeLibraryKit(kitId);
  if (!found && presentKitId(kitId) !== kitId) permanentRedirect(`/kits/${presentKitId(kitId)}`);
  if (!found) notFound();
  return <KitPage entry={found} jobs={await manyJobsWithKit(kitId)} />;
}
