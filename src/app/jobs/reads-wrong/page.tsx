import type { Metadata } from "next";
import { ReadsWrongPage } from "@/ui/jobs/ReadsWrongPage";
import { APP_WORDS } from "@/ui/words/appWords";

export const metadata: Metadata = { title: APP_WORDS.aSiteReadsWrong };

export default function Page() {
  return <ReadsWrongPage />;
}
