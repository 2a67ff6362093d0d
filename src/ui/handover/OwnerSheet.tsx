import type { OwnerLine, OwnerPage } from "@/core/handover/owner/ownerPage";
import { OWNER_LANGUAGE_IDS, OWNER_LANGUAGES } from "@/core/handover/owner/words/ownerLanguages";
import { VectorDrawing } from "@/ui/parts/show/VectorDrawing";

/** What an owner reads on a phone or on paper, in their language. */
export function OwnerSheet({ page: { language, title, foot, parts } }: { page: OwnerPage }) {
  return (
    <main lang={language} className="mx-auto max-w-3xl space-y-5 p-4">
      <div className="flex flex-wrap items-center gap-2">
        <h1 className="mr-auto text-2xl font-bold">{title}</h1>
        <nav aria-label={OWNER_LANGUAGES[language].words.otherLanguages} className="flex gap-1 print:hidden">
          {OWNER_LANGUAGE_IDS.map((id) => (
            <a
              key={id}
              href={`?language=${id}`}
              hrefLang={id}
              lang={id}
              aria-current={id === language ? "page" : undefined}
              className={`btn press ${id === language ? "border-2 border-primary" : ""}`}
            >
              {OWNER_LANGUAGES[id].name}
            </a>
          ))}
        </nav>
      </div>
      {parts.map(({ id, title: heading, lines, drawing }) => (
        <section key={id} aria-labelledby={id} className="break-inside-avoid">
          <h2 id={id} className="mb-1 text-lg font-bold">
            {heading}
          </h2>
          {drawing && <VectorDrawing drawing={drawing} />}
          <ul className="space-y-1">
            {lines.map((line) => (
              <Line key={`${line.text} ${line.asOnDevice}`} line={line} />
            ))}
          </ul>
        </section>
      ))}
      <p className="quiet text-sm">{foot}</p>
    </main>
  );
}

function Line({ line: { text, asOnDevice, isHead } }: { line: OwnerLine }) {
  return (
    <li className={isHead ? "mt-2 font-semibold" : ""}>
      {text}
      {asOnDevice !== undefined && (
        <>
          {text.endsWith(".") ? " " : ": "}
          {/* Read off a device, or out of its kit: in the language that those have. */}
          <span lang="en">{asOnDevice}</span>
        </>
      )}
    </li>
  );
}
