import type { OwnerPart } from "@/core/handover/ownerPage";

/** What an owner reads on a phone or on paper. */
export function OwnerSheet({ parts }: { parts: readonly OwnerPart[] }) {
  return (
    <main className="mx-auto max-w-3xl space-y-5 p-4">
      <h1 className="text-2xl font-bold">Your site</h1>
      {parts.map(({ id, title, lines }) => (
        <section key={id} aria-labelledby={id} className="break-inside-avoid">
          <h2 id={id} className="mb-1 text-lg font-bold">
            {title}
          </h2>
          <ul className="space-y-1">
            {lines.map((line) => (
              <li key={line} className={line.endsWith(":") ? "mt-2 font-semibold" : ""}>
                {line}
              </li>
            ))}
          </ul>
        </section>
      ))}
      <p className="quiet text-sm">
        The makers’ manuals come first. This page was made by Gormit from the plan of your site.
      </p>
    </main>
  );
}
