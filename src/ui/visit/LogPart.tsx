"use client";

import { KeptPhoto } from "@/ui/visit/KeptPhoto";
import { FromServer } from "@/ui/parts/show/FromServer";
import { useWhen } from "@/ui/parts/browser/useWhen";
import { Download } from "lucide-react";
import { useMemo, useState } from "react";
import { logTextSchema } from "@/core/visit/visitEntry";
import { visitNames } from "@/core/visit/visitKinds";
import { LOG_WORDS, searchLog, visitLog, type LogLine } from "@/core/visit/visitLog";
import { TextForm } from "@/ui/parts/form/TextForm";
import { SelectField } from "@/ui/parts/form/SelectField";
import { PhotoButton } from "@/ui/visit/PhotoButton";
import type { VisitDesk } from "@/ui/visit/useVisitStage";
import { useJob } from "@/ui/workspace/workspaceContext";
import { VISIT_WORDS } from "@/ui/words/visitWords";

const NO_NAMES: ReadonlyMap<string, string> = new Map();

/**
 * Everything that happened, newest first; notes and photos at any moment; what was wrong is corrected by a new line.
 */
export function LogPart({ desk }: { desk: VisitDesk }) {
  const { log } = desk;
  const job = useJob();
  const [words, setWords] = useState("");
  const [kind, setKind] = useState("");
  const [who, setWho] = useState("");
  const { accepted } = job.document;
  const lines = useMemo(
    () => visitLog(log.entries, log.changes, accepted).toReversed(),
    [log.entries, log.changes, accepted],
  );
  // Of a job with one visit nobody asks which.
  const names = desk.settings.earlier.length > 0 ? visitNames(desk.settings) : NO_NAMES;
  const shown = searchLog(lines, words, kind, who);
  const people = [...new Set(log.entries.map((entry) => entry.person))];
  return (
    <div className="mx-auto max-w-6xl space-y-3">
      <NoteForm desk={desk} />
      <LogFilter
        words={words}
        setWords={setWords}
        kind={kind}
        setKind={setKind}
        who={who}
        people={people}
        setWho={setWho}
      />
      <p role="status" className="text-sm">
        {shown.length === lines.length
          ? VISIT_WORDS.lines(lines.length)
          : VISIT_WORDS.ofLines(shown.length, lines.length)}
      </p>
      <ol aria-label={VISIT_WORDS.log} className="divide-y divide-base-300">
        {shown.map((line) => (
          <LogRow
            key={line.id}
            desk={desk}
            line={line}
            visit={line.visit === undefined ? undefined : names.get(line.visit)}
          />
        ))}
      </ol>
      {lines.length === 0 && <p className="quiet">{VISIT_WORDS.nothingWasRecordedYet}</p>}
    </div>
  );
}

function NoteForm({ desk: { person, note, photo, jobId } }: { desk: VisitDesk }) {
  const isDisabled = person === "";
  return (
    <TextForm
      label={VISIT_WORDS.note}
      schema={logTextSchema}
      send={VISIT_WORDS.saveNote}
      isDisabled={isDisabled}
      onSend={note}
      more={(typed) => (
        <>
          <PhotoButton
            label={VISIT_WORDS.photo}
            isDisabled={isDisabled}
            onPhoto={(file) => photo(file, typed.trim())}
          />
          <FromServer href={`/api/v1/jobs/${jobId}/log.csv`} download>
            <Download size={18} aria-hidden />
            {VISIT_WORDS.csv}
          </FromServer>
          <FromServer href={`/api/v1/jobs/${jobId}/log.json`} download>
            <Download size={18} aria-hidden />
            {VISIT_WORDS.json}
          </FromServer>
        </>
      )}
    />
  );
}

function LogFilter({
  words,
  setWords,
  kind,
  setKind,
  who,
  people,
  setWho,
}: {
  words: string;
  setWords: (next: string) => void;
  kind: string;
  setKind: (next: string) => void;
  who: string;
  people: string[];
  setWho: (next: string) => void;
}) {
  return (
    <div className="flex flex-wrap items-end gap-3">
      <label className="block min-w-40 flex-1 text-sm">
        <span className="mb-0.5 block font-semibold">{VISIT_WORDS.search}</span>
        <input className="field" type="search" value={words} onChange={(event) => setWords(event.target.value)} />
      </label>
      <div className="w-44">
        <SelectField
          label={VISIT_WORDS.what}
          value={kind}
          options={[
            { value: "", label: VISIT_WORDS.everything },
            ...Object.entries(LOG_WORDS).map(([value, label]) => ({ value, label })),
          ]}
          onValue={setKind}
        />
      </div>
      <div className="w-44">
        <SelectField
          label={VISIT_WORDS.who}
          value={who}
          options={[
            { value: "", label: VISIT_WORDS.everybody },
            ...people.map((name) => ({ value: name, label: name })),
          ]}
          onValue={setWho}
        />
      </div>
    </div>
  );
}

function LogRow({
  desk: { jobId, correct, person },
  line,
  visit,
}: {
  desk: VisitDesk;
  line: LogLine;
  visit: string | undefined;
}) {
  const when = useWhen();
  const [isCorrecting, setCorrecting] = useState(false);
  const canCorrect = line.kind !== "plan-change" && line.kind !== "accepted" && person !== "";
  return (
    <li className="py-2">
      <p className="flex flex-wrap items-center gap-x-3 text-sm">
        <time className="reading" dateTime={line.at}>
          {when(line.at, "minute")}
        </time>
        <b>{line.person || VISIT_WORDS.gormit}</b>
        <span className="quiet">{LOG_WORDS[line.kind]}</span>
        {visit && <span className="quiet">{VISIT_WORDS.visit(visit)}</span>}
        {line.isCorrected && <span className="font-semibold text-warning">{VISIT_WORDS.correctedLater}</span>}
        {canCorrect && !isCorrecting && (
          <button type="button" className="link press -my-2 ml-auto" onClick={() => setCorrecting(true)}>
            {VISIT_WORDS.correct}
            <span className="sr-only"> {line.title || line.text}</span>
          </button>
        )}
      </p>
      {line.title && <p className={`font-semibold ${line.isCorrected ? "line-through" : ""}`}>{line.title}</p>}
      {line.text && <p className={`break-words ${line.isCorrected ? "line-through" : ""}`}>{line.text}</p>}
      {line.photo && <KeptPhoto jobId={jobId} photo={line.photo} words={line.text || VISIT_WORDS.photoOfTheVisit} />}
      {isCorrecting && (
        <TextForm
          label={VISIT_WORDS.whatIsRight}
          schema={logTextSchema}
          autoFocus
          send={VISIT_WORDS.correctTitle}
          onSend={(right) => {
            correct(line.id, right);
            setCorrecting(false);
          }}
          onCancel={() => setCorrecting(false)}
        />
      )}
    </li>
  );
}
