"use client";

import { z } from "zod";
import type { KitKind } from "@/core/kits/kitSchema";
import { savedKitSchema } from "@/core/answers/kitAnswers";
import { Search, Undo2, Upload } from "lucide-react";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useState } from "react";
import type { LibraryKit } from "@/core/kits/libraryKit";
import { callApi, sendApi, UNREACHABLE, type ApiProblem } from "@/ui/parts/server/apiClient";
import { downloadText } from "@/ui/parts/browser/downloadText";
import { FileButton } from "@/ui/parts/form/FileButton";
import { ProblemList } from "@/ui/parts/show/ProblemList";
import { ThemeSwitch } from "@/ui/parts/browser/ThemeSwitch";
import { KIT_KIND_WORDS } from "@/ui/plan/kindWords";
import { KITS_WORDS } from "@/ui/words/kitsWords";

/** As many stay on the page to be brought back with one tap. */
const MOST_DELETED = 5;

/** The library of kits: what Gormit knows of each type of device. */
export function KitsPage({
  kits,
  broken,
}: {
  kits: readonly LibraryKit[];
  broken: readonly { readonly id: string; readonly text: string; readonly problem: string }[];
}) {
  const { problem, bring, call } = useKitCalls();
  const [sought, setSought] = useState("");
  const [kind, setKind] = useState("");
  const [deleted, setDeleted] = useState<readonly LibraryKit[]>([]);
  const kinds = [...new Set(kits.map((entry) => entry.kit.kind))].toSorted((a, b) =>
    KIT_KIND_WORDS[a].localeCompare(KIT_KIND_WORDS[b]),
  );
  const shown = kits.filter((entry) => (kind === "" || entry.kit.kind === kind) && matches(entry, sought));

  return (
    <div className="mx-auto max-w-7xl p-4 sm:p-6">
      <KitsHeader sought={sought} setSought={setSought} kind={kind} setKind={setKind} kinds={kinds} bring={bring} />
      <main className="mt-4 space-y-3">
        <p className="quiet text-sm">{KITS_WORDS.theKitsThatShipWithGormit}</p>
        {problem && <ProblemList problem={problem} />}
        {deleted.map((entry) => (
          <DeletedKit
            key={entry.kit.id}
            deleted={entry}
            call={call}
            onBack={() => setDeleted((before) => before.filter((other) => other !== entry))}
          />
        ))}
        {broken.map(({ id, text, problem: why }) => (
          <BrokenKit key={id} id={id} why={why} text={text} />
        ))}
        {shown.length === 0 && <p className="panel p-6">{KITS_WORDS.noKitHasAllOfTheseWords}</p>}
        <ul className="grid gap-3 sm:grid-cols-2 lg:grid-cols-3">
          {shown.map((entry) => (
            <KitTile
              key={entry.kit.id}
              entry={entry}
              call={call}
              onDeleted={() => setDeleted((before) => [entry, ...before].slice(0, MOST_DELETED))}
            />
          ))}
        </ul>
      </main>
    </div>
  );
}

/** What is asked of the server about kits, and what it would not do. */
function useKitCalls() {
  const router = useRouter();
  const [problem, setProblem] = useState<ApiProblem | undefined>();
  const bring = async (text: string) => {
    const answer = await sendApi("POST", "/api/v1/kits", savedKitSchema, text, "application/yaml").catch(
      () => undefined,
    );
    if (answer?.kind === "ok") router.push(`/kits/${answer.value.id}`);
    else setProblem(answer ? answer.problem : UNREACHABLE);
  };
  const call = async (method: "POST" | "DELETE", path: string) => {
    const answer = await callApi(method, path, z.unknown()).catch(() => undefined);
    setProblem(!answer ? UNREACHABLE : answer.kind === "failed" ? answer.problem : undefined);
    router.refresh();
    return answer?.kind === "ok";
  };
  return { problem, bring, call };
}

function BrokenKit({ id, why, text }: { id: string; why: string; text: string }) {
  return (
    <div role="alert" className="panel flex flex-wrap items-center gap-3 border-2 border-error p-3">
      <span className="mr-auto min-w-0">
        <b>{KITS_WORDS.yourKitCannotBeRead(id)}</b> {KITS_WORDS.itStaysAsItIs(why)}
      </span>
      <button type="button" className="btn press" onClick={() => downloadText(`${id}.gormit-kit.yaml`, text)}>
        {KITS_WORDS.saveItsTextAsAFile}
      </button>
    </div>
  );
}

function KitsHeader({
  sought,
  setSought,
  kind,
  setKind,
  kinds,
  bring,
}: {
  sought: string;
  setSought: (next: string) => void;
  kind: string;
  setKind: (next: string) => void;
  kinds: readonly KitKind[];
  bring: (text: string) => Promise<void>;
}) {
  return (
    <header className="flex flex-wrap items-end gap-3">
      <div>
        <Link href="/jobs" className="link quiet press inline-flex items-center text-sm">
          {KITS_WORDS.jobs}
        </Link>
        <h1 className="text-3xl font-bold leading-tight">{KITS_WORDS.kits}</h1>
      </div>
      <span className="mr-auto">
        <ThemeSwitch />
      </span>
      <label className="flex items-center gap-2">
        <Search size={18} aria-hidden />
        <span className="sr-only">{KITS_WORDS.searchTheKits}</span>
        <input
          type="search"
          className="field w-56"
          placeholder={KITS_WORDS.ctRs485List}
          value={sought}
          onChange={(event) => setSought(event.target.value)}
        />
      </label>
      <select
        aria-label={KITS_WORDS.kind}
        className="field w-44"
        value={kind}
        onChange={(event) => setKind(event.target.value)}
      >
        <option value="">{KITS_WORDS.everyKind}</option>
        {kinds.map((value) => (
          <option key={value} value={value}>
            {KIT_KIND_WORDS[value]}
          </option>
        ))}
      </select>
      <FileButton accept=".yaml,.yml" onText={bring}>
        <Upload size={18} aria-hidden />
        {KITS_WORDS.import}
      </FileButton>
    </header>
  );
}

function DeletedKit({
  deleted,
  call,
  onBack,
}: {
  deleted: LibraryKit;
  call: (method: "POST" | "DELETE", path: string) => Promise<boolean>;
  onBack: () => void;
}) {
  return (
    <div role="status" className="panel flex items-center gap-3 p-3">
      <span className="mr-auto">{KITS_WORDS.isDeletedJobsThatUseItKeepIt(deleted.kit.name)}</span>
      <button
        type="button"
        className="btn press"
        onClick={() => void call("POST", `/api/v1/kits/${deleted.kit.id}/restore`).then((ok) => ok && onBack())}
      >
        <Undo2 size={18} aria-hidden />
        {KITS_WORDS.undo}
      </button>
    </div>
  );
}

function KitTile({
  entry,
  call,
  onDeleted,
}: {
  entry: LibraryKit;
  call: (method: "POST" | "DELETE", path: string) => Promise<boolean>;
  onDeleted: () => void;
}) {
  return (
    <li className="panel flex flex-col p-3">
      <h2 className="font-bold leading-tight">
        <Link className="press inline-flex items-center hover:underline" href={`/kits/${entry.kit.id}`}>
          {entry.kit.name}
        </Link>
      </h2>
      <p className="text-sm leading-snug">
        <span className="quiet">
          {KIT_KIND_WORDS[entry.kit.kind]}
          {entry.origin === "own" ? KITS_WORDS.yourOwn : ""}.{" "}
        </span>
        {entry.kit.summary}
      </p>
      {entry.origin === "own" && (
        <button
          type="button"
          className="btn btn-sm press mt-2 self-start"
          onClick={() => void call("DELETE", `/api/v1/kits/${entry.kit.id}`).then((ok) => ok && onDeleted())}
        >
          {KITS_WORDS.delete}
          <span className="sr-only"> {entry.kit.name}</span>
        </button>
      )}
    </li>
  );
}

function matches({ kit, text }: LibraryKit, sought: string): boolean {
  const words = `${kit.name} ${kit.summary} ${KIT_KIND_WORDS[kit.kind]} ${text}`.toLowerCase();
  return sought
    .toLowerCase()
    .split(/\s+/)
    .every((word) => words.includes(word));
}
