import type { Metadata } from "next";
import { ReadsWrongPage } from "@/ui/jobs/ReadsWrongPage";

export const metadata: Metadata = { title: "A site reads wrong" };

export default function Page() {
  return <ReadsWrongPage />;
}
