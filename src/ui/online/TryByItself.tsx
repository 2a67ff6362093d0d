"use client";

import { Radar } from "lucide-react";
import { useState } from "react";
import type { Chain } from "@/core/chain/chainOf";
import { triedSchema, type OneTry, type Tried } from "@/core/chain/tried";
import type { Observed } from "@/core/online/onlineSchema";
import { rungHeight } from "@/core/online/rungs";
import { useBench } from "@/ui/bench/useBench";
import type { OnlineDesk } from "@/ui/online/useOnline";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { useWhen } from "@/ui/parts/browser/useWhen";
import { callApi, UNREACHABLE, type ApiProblem } from "@/ui/parts/server/apiClient";
import { useJob } from "@/ui/workspace/workspaceContext";
import { ONLINE_WORDS } from "@/ui/words/onlineWords";

/** Lets Gormit itself look from the site's network; what it finds is noted with its time. */
export function TryByItself({ desk, chain }: { desk: OnlineDesk; chain: Chain }) {
  const { id } = useJob();
  const { bench } = useBench(id);
  const [tried, setTried] = useState<Tried | undefined>();
  const [problem, setProblem] = useState<ApiProblem | undefined>();
  const [isBusy, setIsBusy] = useState(false);
  const letTry = async (onBench: boolean) => {
    setIsBusy(true);
    try {
      const body = JSON.stringify({ device: chain.device.id, onBench });
      const answer = await callApi("POST", `/api/v1/jobs/${id}/online/try`, triedSchema, body);
      setProblem(answer.kind === "failed" ? answer.problem : undefined);
      if (answer.kind === "ok") {
        setTried(answer.value);
        note(desk, chain, answer.value.tried);
      }
    } catch {
      setProblem(UNREACHABLE);
    }
    setIsBusy(false);
  };
  return (
    <section aria-label={ONLINE_WORDS.letGormitTry} className="panel space-y-2 p-3">
      <h3 className="text-sm font-bold">{ONLINE_WORDS.letGormitTry}</h3>
      <p className="quiet text-sm">{ONLINE_WORDS.fromTheMachineThatGormitRuns}</p>
      <div className="flex flex-wrap gap-2">
        <button type="button" className="btn press" disabled={isBusy} onClick={() => void letTry(false)}>
          <Radar size={18} aria-hidden />
          {isBusy ? ONLINE_WORDS.trying : ONLINE_WORDS.tryTheSitesNetwork}
        </button>
        {bench && (
          <button type="button" className="btn press" disabled={isBusy} onClick={() => void letTry(true)}>
            <Radar size={18} aria-hidden />
            {ONLINE_WORDS.tryTheBench}
          </button>
        )}
      </div>
      {problem && (
        <p role="alert" className="text-sm font-semibold text-error">
          {problem.message}
        </p>
      )}
      {tried && <TriedList tried={tried} />}
    </section>
  );
}

function TriedList({ tried: { at, tried } }: { tried: Tried }) {
  const when = useWhen();
  const say = useSay();
  return (
    <div role="status">
      <p className="quiet text-sm">{ONLINE_WORDS.triedAtOf(when(at, "second"))}</p>
      {tried.length === 0 && <p className="text-sm">{ONLINE_WORDS.thePlanNamesNothingToTryGateway}</p>}
      <ul className="text-sm">
        {tried.map(({ what, said, ms }) => (
          <li key={what} className="flex flex-wrap gap-x-2 border-b border-base-300 py-0.5">
            <span className="min-w-0 flex-1">{what}</span>
            <b>{say(said)}</b>
            <span className="quiet reading">{ONLINE_WORDS.ms(Math.round(ms))}</span>
          </li>
        ))}
      </ul>
    </div>
  );
}

/**
 * What was found of the site's network counts for a device once that is in it. Until then it tells only whether others
 * get out there.
 */
function note(desk: OnlineDesk, { device, proved }: Chain, tried: readonly OneTry[]): void {
  const seen = tried.flatMap((own) => own.seen ?? []);
  const hasAddress = seen.some(({ check }) => check === "address") || rungHeight(proved) >= rungHeight("address");
  const outside = seen.find(({ check }) => check === "outside");
  const around: Observed[] = outside
    ? [{ check: "phone-internet", outcome: outside.outcome === "answers" ? "yes" : "no" }]
    : [];
  const noted = hasAddress ? seen : [...around, ...seen.filter(({ outcome }) => outcome === "login-page")];
  if (noted.length > 0) desk.see(device.id, noted, true);
  desk.log(
    ONLINE_WORDS.triedByGormit(device.name, tried.map(({ what, said }) => `${what} ${said}`).join("; ")).slice(0, 3900),
  );
}
