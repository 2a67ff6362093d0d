import type { Metadata } from "next";
import { connection } from "next/server";
import { kitLibrary } from "@/app/library/kitLibrary";
import { patternLibrary } from "@/app/library/patternLibrary";
import { NewFromPattern } from "@/ui/patterns/NewFromPattern";
import { APP_WORDS } from "@/ui/words/appWords";

export const metadata: Metadata = { title: APP_WORDS.startFromAPattern };

export default async function Page() {
  await connection();
  return <NewFromPattern patterns={await patternLibrary()} kits={(await kitLibrary()).kits.map(({ kit }) => kit)} />;
}
