"use client";

import { RotateCw, Shuffle, Trash2, X } from "lucide-react";
import { useState } from "react";
import { explainReading, READING_FORMULA } from "@/core/flows/explainReading";
import { ratioText, windowText } from "@/core/job/placeFindings";
import { resolve } from "@/core/plan/resolve";
import { arrowSchool, positiveSchool } from "@/core/sensing/schools";
import type { InputRef } from "@/core/site/fitClamp";
import type { Ct, WindowEntry, SiteNode } from "@/core/site/planSchema";
import { arrowWords } from "@/core/site/arrowWords";
import { conductorsOf, siteTree } from "@/core/site/tree";
import { inputTag } from "@/core/site/inputTag";
import { CheckField } from "@/ui/parts/form/CheckField";
import { FindingLine } from "@/ui/parts/show/FindingLine";
import { NumberField } from "@/ui/parts/form/NumberField";
import { Say } from "@/ui/parts/show/Say";
import type { Picked, PlaceDesk } from "@/ui/place/usePlace";
import { useFindings, useJob } from "@/ui/workspace/workspaceContext";
import { PLACE_WORDS } from "@/ui/words/placeWords";

/** All that can be done with what is picked, with its findings and the caution that belongs to the act. */
export function ClampPanel({ place }: { place: PlaceDesk }) {
  const { picked } = place;
  if (!picked) return null;
  return (
    <section
      aria-label={PLACE_WORDS.pickedCt}
      className={
        "overflow-auto border-base-300 p-3 md:w-[29rem] md:flex-none md:border-l " +
        "max-md:order-first max-md:border-b"
      }
    >
      {picked.kind === "clip" && <ClipActions key={picked.ct} place={place} picked={picked} />}
      {picked.kind === "input" && <EmptyInput place={place} picked={picked} />}
    </section>
  );
}

function ClipActions({ place, picked }: { place: PlaceDesk; picked: Picked & { kind: "clip" } }) {
  const { site } = place;
  const { open } = useFindings();
  const ct = site.cts.find((candidate) => candidate.id === picked.ct);
  if (!ct) return null;
  const findings = open.filter(
    (finding) => finding.stage === "place" && finding.subject.kind === "ct" && finding.subject.id === ct.id,
  );
  return (
    <div className="space-y-2">
      <PanelTitle
        place={place}
        hint={
          place.held === ct.id ? PLACE_WORDS.inTheHandArrowsMoveItFTurnsItS : PLACE_WORDS.tapAConductorToMoveItOrAnInput
        }
      >
        {ct.plug ? PLACE_WORDS.ctOf(inputTag(site, ct.plug.meter, ct.plug.input)) : PLACE_WORDS.ct(ct.id)}
        <span className="ml-2 text-sm font-normal">
          {PLACE_WORDS.arrowOf(arrowWords(ct.arrow))} <Say>{ratioText(ct)}</Say>
          {ct.leads === "swapped" ? PLACE_WORDS.leadsSwapped : ""}
        </span>
      </PanelTitle>
      {ct.plug && <SchoolLine at={ct.plug} />}
      {findings.map((finding) => (
        <FindingLine key={finding.id} finding={finding} />
      ))}
      <ClipButtons place={place} ct={ct} />
      <ClampCaution />
      {ct.plug && <WhyItReads place={place} at={ct.plug} />}
      <WindowChoice place={place} ct={ct} windowAt={picked.windowAt} />
      <div className="grid grid-cols-3 gap-2">
        <PlugChoice place={place} ct={ct} />
        <NumberField
          label={PLACE_WORDS.primary}
          unit="A"
          value={ct.primaryA}
          onValue={(primaryA) => primaryA !== undefined && place.change(ct.id, { primaryA }, "primary")}
          most={100_000}
        />
        <NumberField
          label={PLACE_WORDS.turns}
          whole
          least={1}
          value={ct.turns}
          onValue={(turns) => turns !== undefined && place.change(ct.id, { turns }, "turns")}
          most={100}
        />
      </div>
    </div>
  );
}

function ClipButtons({ place, ct }: { place: PlaceDesk; ct: Ct }) {
  return (
    <div className="flex flex-wrap gap-1.5">
      <button type="button" className="btn press px-3" onClick={() => place.turn(ct.id)}>
        <RotateCw size={18} aria-hidden />
        {PLACE_WORDS.turnRound}
      </button>
      <button type="button" className="btn press px-3" onClick={() => place.swap(ct.id)}>
        <Shuffle size={18} aria-hidden />
        {PLACE_WORDS.swapLeads}
      </button>
      <button type="button" className="btn press px-3" onClick={() => place.remove(ct.id)}>
        <Trash2 size={18} aria-hidden />
        {PLACE_WORDS.remove}
      </button>
    </div>
  );
}

/** Which method this input follows, and whose it is. */
function SchoolLine({ at }: { at: InputRef }) {
  const { document } = useJob();
  const setup = resolve(document)
    .meterById.get(at.meter)
    ?.inputs.find(({ input }) => input.n === at.input);
  if (!setup) return null;
  const arrow = arrowSchool(setup);
  const positive = positiveSchool(setup);
  const whose = ({ isOverridden }: { isOverridden: boolean }) =>
    isOverridden
      ? PLACE_WORDS.overriddenInThePlan
      : setup.kit
        ? PLACE_WORDS.asTheKitWantsIt
        : PLACE_WORDS.asThePlanSays;
  return (
    <p className="quiet text-sm leading-snug">
      {PLACE_WORDS.arrowPositiveIsFlow(
        setup.kit?.name ?? setup.meter.name,
        arrowWords(arrow.active),
        whose(arrow),
        arrowWords(positive.active),
        whose(positive),
      )}
    </p>
  );
}

/** The reading's formula with this site's values in it. */
function WhyItReads({ place, at }: { place: PlaceDesk; at: InputRef }) {
  return (
    <details className="text-sm">
      <summary className="press flex cursor-pointer items-center font-semibold">
        {PLACE_WORDS.whyItReadsThis(READING_FORMULA)}
      </summary>
      <dl className="grid grid-cols-[auto_auto_1fr] gap-x-3">
        {explainReading(place.site, place.state, at).map(({ name, value, because }) => (
          <div key={name} className="contents">
            <dt className="font-semibold">{name}</dt>
            <dd className="reading text-right">{value}</dd>
            <dd className="quiet">{because}</dd>
          </div>
        ))}
      </dl>
    </details>
  );
}

/** Run and conductor by large buttons, and which further conductors share the window. */
function WindowChoice({ place, ct, windowAt }: { place: PlaceDesk; ct: Ct; windowAt: number }) {
  const { site } = place;
  const { runs, nodeById } = siteTree(site);
  const here = ct.around[windowAt] ?? ct.around[0];
  const run = here && nodeById.get(here.run);
  const [sharing, setSharing] = useState(false);
  const picked: Picked = { kind: "clip", ct: ct.id, windowAt };
  return (
    <fieldset className="space-y-1.5">
      <legend className="sr-only">{PLACE_WORDS.whereTheCtIs}</legend>
      <RunAndConductor here={here} nodeById={nodeById} place={place} picked={picked} runs={runs} run={run} />
      <CheckField
        checked={sharing || ct.around.length > 1}
        isDisabled={ct.around.length > 1}
        onCheck={(isChecked) => setSharing(isChecked)}
      >
        {PLACE_WORDS.severalCircuitsThroughOneWindow}
      </CheckField>
      {(sharing || ct.around.length > 1) && here && <SharedRuns runs={runs} place={place} here={here} ct={ct} />}
    </fieldset>
  );
}

function RunAndConductor({
  here,
  nodeById,
  place,
  picked,
  runs,
  run,
}: {
  here: WindowEntry | undefined;
  nodeById: ReadonlyMap<string, SiteNode>;
  place: PlaceDesk;
  picked: Picked & { kind: "clip" };
  runs: readonly SiteNode[];
  run: SiteNode | undefined;
}) {
  const { site } = place;
  return (
    <div className="flex flex-wrap items-center gap-1.5">
      <select
        aria-label={PLACE_WORDS.circuit}
        className="field w-auto min-w-0 flex-1"
        value={here?.run ?? ""}
        onChange={(event) => {
          const next = nodeById.get(event.target.value);
          if (!next) return;
          const conductors = conductorsOf(next, site);
          place.putOn(picked, {
            run: next.id,
            conductor: here && conductors.includes(here.conductor) ? here.conductor : conductors[0]!,
          });
        }}
      >
        {!here && <option value="">{PLACE_WORDS.noConductor}</option>}
        {runs.map((candidate) => (
          <option key={candidate.id} value={candidate.id}>
            {PLACE_WORDS.circuitOf(candidate.name)}
          </option>
        ))}
      </select>
      {run &&
        conductorsOf(run, site).map((conductor) => (
          <button
            key={conductor}
            type="button"
            aria-pressed={here?.conductor === conductor}
            className={`btn press px-2 ${here?.conductor === conductor ? "btn-neutral" : ""}`}
            onClick={() => place.putOn(picked, { run: run.id, conductor })}
          >
            {conductor}
          </button>
        ))}
    </div>
  );
}

function SharedRuns({
  runs,
  place,
  here,
  ct,
}: {
  runs: readonly SiteNode[];
  place: PlaceDesk;
  here: WindowEntry;
  ct: Ct;
}) {
  const { site } = place;
  return (
    <div className="flex flex-wrap gap-1.5">
      {runs
        .filter((candidate) => conductorsOf(candidate, site).includes(here.conductor))
        .map((candidate) => {
          const isIn = ct.around.some((entry) => entry.run === candidate.id && entry.conductor === here.conductor);
          return (
            <button
              key={candidate.id}
              type="button"
              aria-pressed={isIn}
              className={`btn btn-sm press ${isIn ? "btn-neutral" : ""}`}
              onClick={() => place.share(ct.id, { run: candidate.id, conductor: here.conductor })}
            >
              {PLACE_WORDS.of(here.conductor, candidate.name)}
            </button>
          );
        })}
    </div>
  );
}

function PlugChoice({ place, ct }: { place: PlaceDesk; ct: Ct }) {
  const { site } = place;
  const sockets = site.meters.flatMap((meter) =>
    meter.inputs.map((input) => ({ meter: meter.id, input: input.n, tag: inputTag(site, meter.id, input.n) })),
  );
  const here = ct.plug ? inputTag(site, ct.plug.meter, ct.plug.input) : "";
  return (
    <label className="block text-sm">
      <span className="mb-0.5 block font-semibold">{PLACE_WORDS.input}</span>
      <select
        className="field"
        value={here}
        onChange={(event) => {
          const socket = sockets.find((candidate) => candidate.tag === event.target.value);
          if (socket)
            place.plugInto({ kind: "clip", ct: ct.id, windowAt: 0 }, { meter: socket.meter, input: socket.input });
          else place.change(ct.id, { plug: null }, "plug");
        }}
      >
        <option value="">{PLACE_WORDS.none}</option>
        {sockets.map((socket) => (
          <option key={socket.tag} value={socket.tag}>
            {socket.tag}
          </option>
        ))}
      </select>
    </label>
  );
}

function EmptyInput({ place, picked }: { place: PlaceDesk; picked: Picked & { kind: "input" } }) {
  const { site } = place;
  const input = site.meters
    .find((meter) => meter.id === picked.meter)
    ?.inputs.find((candidate) => candidate.n === picked.input);
  if (!input) return null;
  return (
    <div className="space-y-2">
      <PanelTitle place={place} hint={PLACE_WORDS.tapTheConductorThatItsCtIsRound}>
        {PLACE_WORDS.inputHasNoCt(inputTag(site, picked.meter, picked.input))}
      </PanelTitle>
      <p className="text-sm leading-snug">
        {PLACE_WORDS.itMeasuresThisKitWantsTheArrowA(
          windowText(site, input.measures),
          arrowWords(input.arrow),
          input.primaryA,
          input.secondary.value,
          input.secondary.unit,
        )}
      </p>
      <button type="button" className="btn btn-primary press" onClick={() => place.putOn(picked, input.measures[0]!)}>
        {PLACE_WORDS.placeItAsPlanned}
      </button>
      <ClampCaution />
    </div>
  );
}

function PanelTitle({ place, hint, children }: { place: PlaceDesk; hint: string; children: React.ReactNode }) {
  return (
    <div className="flex items-start justify-between">
      <div>
        <h3 className="text-lg font-bold leading-tight">{children}</h3>
        <p role="status" className="text-sm text-primary">
          {hint}
        </p>
      </div>
      <button type="button" className="btn btn-ghost press px-2" onClick={place.putDown}>
        <X size={20} aria-hidden />
        <span className="sr-only">{PLACE_WORDS.putDown}</span>
      </button>
    </div>
  );
}

/** The usual caution before anybody touches a CT. */
export function ClampCaution() {
  return <p className="caution">{PLACE_WORDS.isolateAndProveDeadBeforeYouReach}</p>;
}
