"use client";

import { APP_WORDS } from "@/ui/words/appWords";

/**
 * What a person sees when a page fails: that nothing is lost, and what to do. Only what failed on the server has a
 * digest.
 */
export default function ErrorPage({
  error,
  reset,
}: {
  error: Error & { readonly digest?: string };
  reset: () => void;
}) {
  return (
    <main className="mx-auto max-w-xl p-6">
      <h1 className="text-2xl font-bold">{APP_WORDS.thisPageCouldNotBeShown}</h1>
      {error.digest === undefined ? (
        <>
          <p className="mt-3">{APP_WORDS.somethingOnThePageFailedNothing}</p>
          <p className="mt-2">{APP_WORDS.tryAgainIfItFailsAgainReload(error.message)}</p>
        </>
      ) : (
        <>
          <p className="mt-3">{APP_WORDS.mostLikelyTheDatabaseDoesNotAnswer}</p>
          <p className="mt-2">{APP_WORDS.lookAtTheTerminalInWhichGormit}</p>
        </>
      )}
      <button type="button" className="btn btn-primary press mt-4" onClick={reset}>
        {APP_WORDS.tryAgain}
      </button>
    </main>
  );
}
