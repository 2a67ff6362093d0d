import type { Metadata } from "next";
import { notFound, permanentRedirect } from "next/navigation";
import { connection } from "next/server";
import { kitLibrary } from "@/app/library/kitLibrary";
import { patternLibrary } from "@/app/library/patternLibrary";
import { presentPatternId } from "@/core/job/patternId";
import { NewFromPattern } from "@/ui/patterns/NewFromPattern";
import { APP_WORDS } from "@/ui/words/appWords";

interface Props {
  readonly params: Promise<{ patternId: string }>;
}

export async function generateMetadata({ params }: Props): Promise<Metadata> {
  const { patternId } = await params;
  return { title: (await patternLibrary()).find(({ id }) => id === patternId)?.title ?? APP_WORDS.noSuchPattern };
}

export default async function Page({ params }: Props) {
  await connection();
  const { patternId } = await params;
  const present = presentPatternId(patternId);
  if (present !== patternId) permanentRedirect(`/jobs/new/${present}`);
  const patterns = await patternLibrary();
  if (!patterns.some(({ id }) => id === patternId)) notFound();
  const kits = (await kitLibrary()).kits.map(({ kit }) => kit);
  return <NewFromPattern patterns={patterns} kits={kits} chosen={patternId} />;
}
