"use client";

import { FileText, History, Stamp } from "lucide-react";
import { useState } from "react";
import type { Handovers, HandoverVersion } from "@/core/handover/version/handoverVersion";
import { signatureSchema, type Signature } from "@/core/handover/version/signature";
import { personSchema } from "@/core/visit/visitEntry";
import { capital, counted } from "@/core/words";
import { ReportLanguageField } from "@/ui/handover/ReportLanguageField";
import { SignatureBox } from "@/ui/handover/SignatureBox";
import { SignatureDrawing } from "@/ui/handover/SignatureDrawing";
import type { HandoverDesk } from "@/ui/handover/useHandovers";
import { useConnected } from "@/ui/parts/browser/useConnected";
import { useSayDays, useWhen } from "@/ui/parts/browser/useWhen";
import { usePerson } from "@/ui/parts/browser/usePerson";
import { StageLink } from "@/ui/workspace/frame/stageMoves";
import { useJob } from "@/ui/workspace/workspaceContext";
import { FromServer } from "@/ui/parts/show/FromServer";
import { HANDOVER_WORDS } from "@/ui/words/handoverWords";

/** The hand overs of this site, each as it was, what has changed since, and the signing of another one. */
export function HandoverVersions({ desk: { handovers, problem, make } }: { desk: HandoverDesk }) {
  const [newest] = handovers?.versions ?? [];
  const [isSigning, setIsSigning] = useState(false);
  const isConnected = useConnected();
  return (
    <section aria-label={HANDOVER_WORDS.handOvers} className="panel space-y-3 p-3">
      <h3 className="text-lg font-bold">{newest ? HANDOVER_WORDS.handedOver : HANDOVER_WORDS.handItOver}</h3>
      {handovers && newest && <Changed handovers={handovers} />}
      <ol className="space-y-2">
        {handovers?.versions.map((version) => (
          <VersionLine key={version.id} version={version} />
        ))}
      </ol>
      {handovers && !isSigning && (
        <button type="button" className="btn btn-primary press" onClick={() => setIsSigning(true)}>
          <Stamp size={18} aria-hidden />
          {newest ? HANDOVER_WORDS.handOverAgainAsVersion(newest.number + 1) : HANDOVER_WORDS.handOverAndSign}
        </button>
      )}
      {handovers && isSigning && (
        <SignForm
          handovers={handovers}
          onCancel={() => setIsSigning(false)}
          onMake={async (person, sha256, signatures) => {
            if (await make(person, sha256, signatures)) setIsSigning(false);
          }}
        />
      )}
      {!handovers && isConnected && problem === undefined && (
        <p role="status">{HANDOVER_WORDS.lookingForTheHandOvers}</p>
      )}
      {!handovers && !isConnected && <p className="text-sm">{HANDOVER_WORDS.theHandOversAreKeptOnTheServer}</p>}
      {problem !== undefined && (
        <p role="alert" className="text-sm font-semibold text-error">
          {problem}
        </p>
      )}
    </section>
  );
}

function VersionLine({ version: { number, at, person, state, sha256, signatures } }: { version: HandoverVersion }) {
  const { id } = useJob();
  const when = useWhen();
  const path = `/api/v1/jobs/${id}/handovers/${number}/report.pdf`;
  return (
    <li className="rounded border border-base-300 p-2">
      <p className="font-semibold">{HANDOVER_WORDS.version(number, when(at, "full"), state)}</p>
      <p className="quiet text-sm">
        {HANDOVER_WORDS.handedOverByItsDataSha256(person)}{" "}
        <span className="reading break-all">{sha256.slice(0, 16)}…</span>
      </p>
      <div className="mt-1 flex flex-wrap items-end gap-2">
        {signatures.map((signature) => (
          <SignatureDrawing key={signature.role} signature={signature} />
        ))}
        {(["a4", "letter"] as const).map((paper) => (
          <FromServer
            key={paper}
            className="btn press"
            href={`${path}?paper=${paper}`}
            target="_blank"
            rel="noreferrer"
          >
            <FileText size={18} aria-hidden />
            {paper === "a4" ? HANDOVER_WORDS.asItWasA4 : HANDOVER_WORDS.asItWasLetter}
          </FromServer>
        ))}
      </div>
    </li>
  );
}

/** What the report says now that the newest hand over did not; nothing where it says the same. */
function Changed({ handovers: { versions, current } }: { handovers: Handovers }) {
  const say = useSayDays();
  const [newest] = versions;
  const { changed, newLogLines } = current;
  if (!newest) return null;
  const lines =
    newLogLines === 0
      ? ""
      : HANDOVER_WORDS.inTheLog(counted(newLogLines, HANDOVER_WORDS.newLine, HANDOVER_WORDS.newLines));
  if (changed.length === 0)
    return (
      <p className="text-sm">
        {HANDOVER_WORDS.nothingHasChangedSinceVersion(newest.number, lines && HANDOVER_WORDS.butFor(lines))}
      </p>
    );
  return (
    <div role="status" className="rounded border-2 border-warning p-2 text-sm">
      <p className="flex items-center gap-1 font-bold">
        <History size={18} aria-hidden />
        {HANDOVER_WORDS.changedSinceVersionHandOverAgain(newest.number, lines && `; ${lines}`)}
      </p>
      {changed.map(({ section, title, added, gone }) => (
        <details key={section}>
          <summary className="press flex cursor-pointer items-center font-semibold">
            {title}: {counted(Math.max(added.length, gone.length), HANDOVER_WORDS.line, HANDOVER_WORDS.lines)}
          </summary>
          <ul className="pl-4">
            {gone.map((line) => (
              <li key={`gone ${line}`}>
                <b>{HANDOVER_WORDS.was}</b> {say(line)}
              </li>
            ))}
            {added.map((line) => (
              <li key={`added ${line}`}>
                <b>{HANDOVER_WORDS.now}</b> {say(line)}
              </li>
            ))}
          </ul>
        </details>
      ))}
    </div>
  );
}

interface SignProps {
  readonly handovers: Handovers;
  readonly onCancel: () => void;
  readonly onMake: (person: string, sha256: string, signatures: readonly Signature[]) => Promise<void>;
}

type Typed = Readonly<Record<Signature["role"], Pick<Signature, "name" | "strokes">>>;
const ROLES = signatureSchema.shape.role.options;

function SignForm(props: SignProps) {
  const { current } = props.handovers;
  const [language, setLanguage] = useState(current.language);
  const signing = useSigning(props, current.languages[language]);
  const { person, typed, problems, whoProblem, isSaved, isBusy, changePerson, set, submit } = signing;
  return (
    <form
      className="space-y-3 rounded border-2 border-base-content/40 p-3"
      noValidate
      onSubmit={(event) => {
        event.preventDefault();
        void submit();
      }}
    >
      <WhatIsKept state={current.state} />
      <label className="block text-sm">
        <span className="mb-0.5 block font-semibold">{HANDOVER_WORDS.whoHandsOver}</span>
        <input
          name="hands-over"
          className="field"
          autoComplete="off"
          value={person}
          aria-invalid={whoProblem !== undefined}
          onChange={({ target }) => changePerson(target.value)}
        />
        <span role={whoProblem ? "alert" : undefined} className="block font-semibold text-error">
          {whoProblem}
        </span>
      </label>
      <ReportLanguageField
        label={HANDOVER_WORDS.languageOfTheReportThatIsKept}
        language={language}
        onLanguage={setLanguage}
      />
      <div className="grid gap-4 sm:grid-cols-2">
        {ROLES.map((role, at) => (
          <SignatureBox
            key={role}
            role={role}
            {...typed[role]}
            problem={problems[at]}
            onName={(name) => set(role, { name })}
            onStrokes={(strokes) => set(role, { strokes })}
          />
        ))}
      </div>
      {!isSaved && <p className="text-sm font-semibold">{HANDOVER_WORDS.notSentYetItCanBeHandedOverOnceAll}</p>}
      <div className="flex flex-wrap gap-2">
        <button type="submit" className="btn btn-primary press" disabled={!isSaved || isBusy}>
          <Stamp size={18} aria-hidden />
          {HANDOVER_WORDS.handOverNow}
        </button>
        <button type="button" className="btn press" onClick={props.onCancel}>
          {HANDOVER_WORDS.cancel}
        </button>
      </div>
    </form>
  );
}

function WhatIsKept({ state }: { state: string }) {
  const { id } = useJob();
  return (
    <p>
      <b>{capital(state === "done" ? HANDOVER_WORDS.everythingIsProvedOrAccepted : state)}.</b> {HANDOVER_WORDS.the}
      <StageLink className="link" href={`/jobs/${id}/handover?part=report`}>
        {HANDOVER_WORDS.reportLower}
      </StageLink>{" "}
      {HANDOVER_WORDS.isKeptAsItIsNowWhatIsMissingStands}
    </p>
  );
}

/** What is typed and signed; what is wrong with it is said once somebody hands over. */
function useSigning({ onMake }: SignProps, sha256: string) {
  const { person, setPerson } = usePerson();
  const { status } = useJob();
  const [typed, setTyped] = useState<Typed>({
    technician: { name: person, strokes: [] },
    owner: { name: "", strokes: [] },
  });
  const [isAsked, setIsAsked] = useState(false);
  const [isBusy, setIsBusy] = useState(false);
  const set = (role: Signature["role"], change: Partial<Typed[Signature["role"]]>) =>
    setTyped((before) => ({ ...before, [role]: { ...before[role], ...change } }));
  const who = personSchema.safeParse(person);
  const found = ROLES.map((role) => problemOf(role, typed[role]));
  return {
    person,
    typed,
    isBusy,
    isSaved: status.kind === "saved",
    whoProblem: isAsked ? who.error?.issues[0]?.message : undefined,
    problems: isAsked ? found : [],
    set,
    changePerson: (name: string) => {
      setPerson(name);
      // Who hands over is who signs for it, unless another name was typed there.
      if (typed.technician.name === person) set("technician", { name });
    },
    submit: async () => {
      setIsAsked(true);
      if (!who.success || found.some((own) => own !== undefined)) return;
      setIsBusy(true);
      await onMake(who.data, sha256, signed(typed));
      setIsBusy(false);
    },
  };
}

/** A name alone is no signature; a box that was signed needs a name. */
function problemOf(role: Signature["role"], { name, strokes }: Typed[Signature["role"]]): string | undefined {
  if (strokes.length === 0) return undefined;
  const parsed = signatureSchema.safeParse({ role, name, strokes });
  return parsed.success ? undefined : parsed.error.issues[0]?.message;
}

function signed(typed: Typed): readonly Signature[] {
  return ROLES.flatMap((role) => {
    const parsed = signatureSchema.safeParse({ role, ...typed[role] });
    return parsed.success ? [parsed.data] : [];
  });
}
