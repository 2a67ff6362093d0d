import type { Metadata } from "next";
import { connection } from "next/server";
import { kitLibrary } from "@/app/library/kitLibrary";
import { KitsPage } from "@/ui/kits/KitsPage";
import { APP_WORDS } from "@/ui/words/appWords";

export const metadata: Metadata = { title: APP_WORDS.kits };

export default async function Page() {
  await connection();
  return <KitsPage {...await kitLibrary()} />;
}
