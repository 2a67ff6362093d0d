"use client";

import { Hand, Radio, Square } from "lucide-react";
import { useState } from "react";
import { nodeName } from "@/core/site/tree";
import { flowWord } from "@/core/site/flowWords";
import { powerText } from "@/core/units";
import { isOnBench } from "@/core/bench/isOnBench";
import { useBench } from "@/ui/bench/useBench";
import { useGuidedProof, type Guide } from "@/ui/live/useGuidedProof";
import { useLive } from "@/ui/live/useLive";
import { StageLink } from "@/ui/workspace/frame/stageMoves";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import type { ProveDesk } from "@/ui/prove/useProve";
import { useJob } from "@/ui/workspace/workspaceContext";
import { LIVE_WORDS } from "@/ui/words/liveWords";

/**
 * Readings from the devices themselves: step by step it says what to switch, sees that it was switched, takes the
 * reading when it stands still, and goes on until the verdict stands.
 */
export function LiveProof({ prove }: { prove: ProveDesk }) {
  const job = useJob();
  const links = useLive(job.id);
  const { bench, change } = useBench(job.id);
  const metered = links.flatMap(({ devices }) => devices).filter(({ meter }) => meter !== undefined);
  const answering = metered.filter(({ state }) => state === "answers");
  const [letsBench, setLetsBench] = useState(true);
  const isSimulated = links.some(({ way }) => isOnBench(way, bench?.bench));
  const guide = useGuidedProof(prove, {
    links,
    onBench: bench && isSimulated && letsBench ? change : undefined,
    source: isSimulated ? "simulated" : "seen",
  });
  const isOn = guide.phase.kind !== "idle" && guide.phase.kind !== "over";
  return (
    <section aria-label={LIVE_WORDS.liveReadings} className="panel space-y-3 p-4">
      <div className="flex flex-wrap items-center gap-3">
        <h3 className="mr-auto flex items-center gap-2 text-lg font-bold">
          <Radio size={20} aria-hidden />
          {LIVE_WORDS.liveReadings}
        </h3>
        <span className="text-sm">
          {metered.length === 0
            ? LIVE_WORDS.noMeterIsConnected
            : LIVE_WORDS.of(
                answering.length,
                metered.length,
                metered.length === 1 ? LIVE_WORDS.meterAnswers : LIVE_WORDS.metersAnswer,
              )}
        </span>
        {metered.length === 0 ? (
          <StageLink href={`/jobs/${job.id}/wire?part=live`} className="btn press">
            {LIVE_WORDS.connectAMeter}
          </StageLink>
        ) : isOn ? (
          <button type="button" className="btn press" onClick={guide.stop}>
            <Square size={18} aria-hidden />
            {LIVE_WORDS.stop}
          </button>
        ) : (
          <StartButtons prove={prove} guide={guide} isReady={answering.length > 0} />
        )}
      </div>
      {isSimulated && metered.length > 0 && (
        <label className="press flex items-center gap-2 text-sm">
          <input
            type="checkbox"
            className="checkbox"
            checked={letsBench}
            onChange={(event) => setLetsBench(event.target.checked)}
          />
          {LIVE_WORDS.theBenchSwitchesByItselfThese}
        </label>
      )}
      {metered.length > 0 && <GuideLine prove={prove} guide={guide} />}
    </section>
  );
}

interface StartProps {
  readonly prove: ProveDesk;
  readonly guide: Guide;
  readonly isReady: boolean;
}

/** The whole proof, or the readings of one step. */
function StartButtons({ prove, guide, isReady }: StartProps) {
  const { steps } = prove.sheet;
  const unread = steps.findIndex(({ readings }) => readings.length === 0);
  const at = unread < 0 ? steps.length - 1 : unread;
  return (
    <>
      {at >= 0 && (
        <button type="button" className="btn press" disabled={!isReady} onClick={() => guide.takeOne(at)}>
          {LIVE_WORDS.takeReadingsOfStep(at + 1)}
        </button>
      )}
      <button type="button" className="btn btn-primary press" disabled={!isReady} onClick={guide.start}>
        {LIVE_WORDS.guidedProof}
      </button>
    </>
  );
}

/** What is to be done now, and what Gormit waits for. */
function GuideLine({ prove, guide }: { prove: ProveDesk; guide: Guide }) {
  const say = useSay();
  const { phase } = guide;
  switch (phase.kind) {
    case "idle":
      return <p className="quiet text-sm">{LIVE_WORDS.itSaysWhatToSwitchSeesItAndTakes}</p>;
    case "switching":
      return (
        <div role="status" className="space-y-2">
          <p className="text-xl font-bold">{prove.sheet.steps[phase.step]?.label}</p>
          <ul className="text-lg">
            {phase.switchings.map(({ node, toW }) => (
              <li key={node}>
                {nodeName(prove.site, node)}:{" "}
                <strong>
                  {toW === 0 ? LIVE_WORDS.off : say(`${powerText(Math.abs(toW))} ${flowWord(prove.site, node, toW)}`)}
                </strong>
              </li>
            ))}
          </ul>
          <button type="button" className="btn btn-lg press" onClick={guide.switched}>
            <Hand size={20} aria-hidden />
            {LIVE_WORDS.itIsSwitched}
          </button>
        </div>
      );
    case "settling":
      return (
        <p role="status" className="text-lg">
          {LIVE_WORDS.step(phase.step + 1, say(phase.why))}
        </p>
      );
    case "asked":
      return <p role="status">{LIVE_WORDS.theBenchIsBeingSwitched}</p>;
    case "thinking":
      return <p role="status">{LIVE_WORDS.weighingWhatWasRead}</p>;
    case "over":
      return (
        <p role="status" className="text-lg font-bold">
          {phase.why}
        </p>
      );
  }
}
