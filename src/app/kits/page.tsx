import type { Metadata } from "next";
import { connection } from "next/server";
import { kitLibrary } from "@/app/library/kitLibrary";
import { KitsPage } from "@/ui/kits/KitsPage";

export const metadata: Metadata = { title: "Kits" };

export default async function Page() {
  await connection();
  return <KitsPage {...await kitLibrary()} />;
}
