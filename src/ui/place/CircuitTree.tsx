"use client";

import { CircleDashed, CircuitBoard, Wand2 } from "lucide-react";
import { useMemo, type ReactNode } from "react";
import { circuitTree, type CircuitRow, type TreeClamp, type TreeInput } from "@/core/board/circuitTree";
import { arrowWords } from "@/core/site/arrowWords";
import { COLOUR_SCHEMES } from "@/core/site/conductorColours";
import { phaseInputs } from "@/core/site/fitClamp";
import { flowWord } from "@/core/site/flowWords";
import { inputTag } from "@/core/site/inputTag";
import type { Conductor } from "@/core/site/planSchema";
import { powerText } from "@/core/units";
import { Say } from "@/ui/parts/show/Say";
import { ReadingLines } from "@/ui/place/ReadingTag";
import type { PlaceDesk } from "@/ui/place/usePlace";
import { useJob } from "@/ui/workspace/workspaceContext";
import { PLACE_WORDS } from "@/ui/words/placeWords";

const INDENT_PX = 14;

interface Props {
  readonly place: PlaceDesk;
  /** All that can be done with what is picked; stands under it. */
  readonly panel: ReactNode;
}

/** The site in one hand: its circuits from the supply down, a row each, with conductors, CTs and what they read. */
export function CircuitTree({ place, panel }: Props) {
  const { site } = place;
  const rows = useMemo(() => circuitTree(site), [site]);
  const missing = rows.reduce((sum, row) => sum + row.missing.length, 0);
  return (
    <section aria-label={PLACE_WORDS.circuits} className="space-y-2 p-3">
      {missing > 0 && (
        <button type="button" className="btn press w-full" onClick={place.putAllAsPlanned}>
          <Wand2 size={18} aria-hidden />
          {missing === 1 ? PLACE_WORDS.placeTheMissingCtAsPlanned : PLACE_WORDS.placeAllMissingCTsAsPlanned(missing)}
        </button>
      )}
      <p className="flex items-center gap-1.5 font-bold">
        <CircuitBoard size={18} aria-hidden />
        {PLACE_WORDS.supply}
      </p>
      <ul className="space-y-2">
        {rows.map((row) => (
          <li key={row.node.id} style={{ marginLeft: INDENT_PX * (row.depth + 1) }} data-circuit={row.node.id}>
            <Circuit place={place} row={row} panel={panel} />
          </li>
        ))}
      </ul>
      {site.cts
        .filter(({ around }) => around.length === 0)
        .map((ct) => (
          <button
            key={ct.id}
            type="button"
            className="btn press w-full justify-start text-left"
            aria-pressed={place.picked?.kind === "clip" && place.picked.ct === ct.id}
            onClick={() => place.pick({ kind: "clip", ct: ct.id, windowAt: 0 })}
          >
            {PLACE_WORDS.isRoundNoConductorTapThen(
              ct.plug ? inputTag(site, ct.plug.meter, ct.plug.input) : PLACE_WORDS.aCt,
            )}
          </button>
        ))}
    </section>
  );
}

function Circuit({ place, row, panel }: { place: PlaceDesk; row: CircuitRow; panel: ReactNode }) {
  const { picked } = place;
  const { node, clamps, missing } = row;
  return (
    <article className="rounded-md border border-base-300 border-l-4 border-l-secondary bg-base-100 p-2">
      <h3 className="flex flex-wrap items-baseline justify-between gap-x-2 leading-tight">
        <span className="font-bold">{node.name}</span>
        <PowerWords place={place} row={row} />
      </h3>
      <Conductors place={place} row={row} />
      {clamps.map((clamp) => (
        <div key={`${clamp.ct.id} ${clamp.windowAt}`}>
          <ClampRow place={place} clamp={clamp} />
          {picked?.kind === "clip" && picked.ct === clamp.ct.id && picked.windowAt === clamp.windowAt && panel}
        </div>
      ))}
      {missing.map((own) => (
        <MissingRow key={`${own.meter} ${own.input.n}`} place={place} own={own} />
      ))}
    </article>
  );
}

/** What the device of a circuit does in the state that is looked at. */
function PowerWords({ place: { state, site }, row: { node } }: { place: PlaceDesk; row: CircuitRow }) {
  const powerW = state.devices.find((device) => device.node === node.id)?.powerW;
  if (powerW === undefined || powerW === 0) return null;
  return (
    <span className="text-sm">
      <span className="reading">
        <Say>{powerText(Math.abs(powerW))}</Say>
      </span>{" "}
      {flowWord(site, node.id, powerW)}
    </span>
  );
}

/** The conductors: stripes to look at; as thick as a finger once a CT is picked to go round one of them. */
function Conductors({ place, row }: { place: PlaceDesk; row: CircuitRow }) {
  const { document } = useJob();
  const { colours } = COLOUR_SCHEMES[document.job.colourScheme];
  const { picked, site } = place;
  const stripe = (conductor: Conductor) => (
    <span
      className="h-2.5 w-6 flex-none rounded-sm border border-base-content/60"
      style={{ background: colours[conductor].hex }}
      aria-hidden
    />
  );
  if (!picked)
    return (
      <p className="mt-0.5 flex flex-wrap gap-x-3 text-sm">
        {row.conductors.map((conductor) => (
          <span key={conductor} className="inline-flex items-center gap-1">
            {stripe(conductor)}
            {conductor} {colours[conductor].name}
          </span>
        ))}
      </p>
    );
  const phases = picked.kind === "input" ? phaseInputs(site, picked) : [];
  const takesAll = phases.length > 1 && phases.every(({ measures }) => row.conductors.includes(measures[0]!.conductor));
  return (
    <div className="mt-1 grid gap-1">
      {row.conductors.map((conductor) => (
        <button
          key={conductor}
          type="button"
          data-run={row.node.id}
          data-conductor={conductor}
          className="btn press justify-start text-left"
          onClick={() => place.putOn(picked, { run: row.node.id, conductor })}
        >
          {stripe(conductor)}
          {PLACE_WORDS.round(conductor, colours[conductor].name)}
        </button>
      ))}
      {takesAll && picked.kind === "input" && (
        <button
          type="button"
          className="btn press justify-start text-left"
          onClick={() => place.putPhases({ meter: picked.meter, input: picked.input }, row.node.id)}
        >
          <Wand2 size={18} aria-hidden />
          {PLACE_WORDS.atOnceEachOnItsOwnPhase(phases.map(({ n }) => inputTag(site, picked.meter, n)).join(" "))}
        </button>
      )}
    </div>
  );
}

function ClampRow({ place, clamp: { ct, windowAt, conductor, at } }: { place: PlaceDesk; clamp: TreeClamp }) {
  const { site, picked, readings } = place;
  const isPicked = picked?.kind === "clip" && picked.ct === ct.id;
  const tag = at ? inputTag(site, at.meter, at.input.n) : PLACE_WORDS.noInput;
  const reading = at && readings.find((own) => own.meter === at.meter && own.input === at.input.n);
  return (
    <button
      type="button"
      aria-pressed={isPicked}
      data-clamp={ct.id}
      className={
        "press mt-1 grid w-full grid-cols-[3rem_1fr] items-center gap-2 rounded-md border-2 p-1 text-left " +
        (isPicked ? "border-primary" : reading?.differs ? "border-warning" : "border-base-300")
      }
      onClick={() => place.pick(isPicked ? undefined : { kind: "clip", ct: ct.id, windowAt })}
    >
      <span
        className={`rounded py-2 text-center font-bold ${isPicked ? "bg-primary text-primary-content" : "bg-base-300"}`}
      >
        {tag}
      </span>
      <span className="min-w-0 text-sm leading-snug">
        <span className="block">
          {PLACE_WORDS.roundLower} <b>{conductor}</b>
          {PLACE_WORDS.arrow(arrowWords(ct.arrow))}
          {ct.leads === "swapped" && PLACE_WORDS.leadsSwapped}
        </span>
        {reading ? (
          <ReadingLines site={site} reading={reading} />
        ) : (
          <span className="quiet">{PLACE_WORDS.notPluggedIn}</span>
        )}
      </span>
    </button>
  );
}

function MissingRow({ place, own: { meter, input } }: { place: PlaceDesk; own: TreeInput }) {
  const { site, picked } = place;
  const isPicked = picked?.kind === "input" && picked.meter === meter && picked.input === input.n;
  return (
    <button
      type="button"
      aria-pressed={isPicked}
      data-missing={inputTag(site, meter, input.n)}
      className={
        "press mt-1 flex w-full items-center gap-2 rounded-md border-2 border-dashed p-1 text-left text-sm " +
        (isPicked ? "border-primary" : "border-warning")
      }
      onClick={() => place.pick(isPicked ? undefined : { kind: "input", meter, input: input.n })}
    >
      <CircleDashed size={18} className="text-warning" aria-hidden />
      <span>
        <b>{inputTag(site, meter, input.n)}</b> {PLACE_WORDS.hasNoCtYetItGoesRound}
        <b>{input.measures.map(({ conductor }) => conductor).join(" and ")}</b>.{" "}
        {isPicked ? PLACE_WORDS.tapTheConductor : PLACE_WORDS.tapThenTheConductor}
      </span>
    </button>
  );
}
