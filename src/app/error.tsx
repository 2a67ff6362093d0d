"use client";

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
      <h1 className="text-2xl font-bold">This page could not be shown</h1>
      {error.digest === undefined ? (
        <>
          <p className="mt-3">
            Something on the page failed. Nothing is lost: what was saved is kept, and what you typed since then is kept
            in this browser.
          </p>
          <p className="mt-2">Try again; if it fails again, reload the page. What failed: {error.message}</p>
        </>
      ) : (
        <>
          <p className="mt-3">
            Most likely the database does not answer. Nothing is lost: what was saved is kept, and what you typed since
            then is kept in this browser.
          </p>
          <p className="mt-2">
            Look at the terminal in which Gormit was started, start it again if it has ended, then try again.
          </p>
        </>
      )}
      <button type="button" className="btn btn-primary press mt-4" onClick={reset}>
        Try again
      </button>
    </main>
  );
}
