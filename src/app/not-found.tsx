import Link from "next/link";
import { APP_WORDS } from "@/ui/words/appWords";

export default function NotFound() {
  return (
    <main className="mx-auto max-w-xl p-6">
      <h1 className="text-2xl font-bold">{APP_WORDS.thereIsNothingHere}</h1>
      <p className="mt-3">{APP_WORDS.theJobWasDeletedOrTheAddress}</p>
      <Link className="btn btn-primary press mt-4" href="/jobs">
        {APP_WORDS.allJobs}
      </Link>
    </main>
  );
}
