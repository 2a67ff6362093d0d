"use client";

import { Radar } from "lucide-react";
import { useState } from "react";
import type { Chain } from "@/core/chain/chainOf";
import { triedSchema, type OneTry, type Tried } from "@/core/chain/tried";
import type { Observed } from "@/core/online/onlineSchema";
import { rungHeight } from "@/core/online/rungs";
import { useBench } from "@/ui/bench/useBench";
import type { OnlineDesk } from "@/ui/online/useOnline";
import { useSay, useWhen } from "@/ui/parts/browser/useNumberStyle";
import { callApi, UNREACHABLE, type ApiProblem } from "@/ui/parts/server/apiClient";
import { useJob } from "@/ui/workspace/workspaceContext";

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
    <section aria-label="Let Gormit try" className="panel space-y-2 p-3">
      <h3 className="text-sm font-bold">Let Gormit try</h3>
      <p className="quiet text-sm">
        From the machine that Gormit runs on, in the site’s network: gateway, name, ports, log-in page, the device’s own
        page and clock. Only what the plan names is asked.
      </p>
      <div className="flex flex-wrap gap-2">
        <button type="button" className="btn press" disabled={isBusy} onClick={() => void letTry(false)}>
          <Radar size={18} aria-hidden />
          {isBusy ? "Trying …" : "Try the site’s network"}
        </button>
        {bench && (
          <button type="button" className="btn press" disabled={isBusy} onClick={() => void letTry(true)}>
            <Radar size={18} aria-hidden />
            Try the bench
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
      <p className="quiet text-sm">Tried at {when(at, "second")}:</p>
      {tried.length === 0 && (
        <p className="text-sm">The plan names nothing to try: gateway under Wire, service in the kit.</p>
      )}
      <ul className="text-sm">
        {tried.map(({ what, said, ms }) => (
          <li key={what} className="flex flex-wrap gap-x-2 border-b border-base-300 py-0.5">
            <span className="min-w-0 flex-1">{what}</span>
            <b>{say(said)}</b>
            <span className="quiet reading">{Math.round(ms)} ms</span>
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
    `${device.name}, tried by Gormit: ${tried.map(({ what, said }) => `${what} ${said}`).join("; ")}`.slice(0, 3900),
  );
}
