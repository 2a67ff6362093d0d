"use client";

import { FlaskConical } from "lucide-react";
import { useState } from "react";
import type { BenchRequest, BenchStatus } from "@/core/bench/benchSchema";
import { candidateFaults } from "@/core/flows/faults";
import { BenchActs } from "@/ui/bench/BenchActs";
import { BenchCards } from "@/ui/bench/BenchCards";
import { BenchFaults } from "@/ui/bench/BenchFaults";
import { BenchOnline } from "@/ui/bench/BenchOnline";
import { BenchPowers } from "@/ui/bench/BenchPowers";
import { useBench, type BenchDesk } from "@/ui/bench/useBench";
import { SelectField } from "@/ui/parts/form/SelectField";
import { Failure } from "@/ui/parts/show/Failure";
import { useJob } from "@/ui/workspace/workspaceContext";
import { BENCH_WORDS } from "@/ui/words/benchWords";

const TIME_FACTORS = [1, 10, 60, 600];

/** Bench: this job's site, simulated on this machine, to try everything without a site. */
export function BenchStage() {
  const job = useJob();
  const desk = useBench(job.id);
  const { bench, isAsked, problem } = desk;
  return (
    <div className="mx-auto max-w-6xl space-y-4 p-4">
      <h2 className="sr-only">{BENCH_WORDS.bench}</h2>
      {!isAsked ? (
        <p role="status">{BENCH_WORDS.lookingForThisJobsBench}</p>
      ) : bench ? (
        <RunningBench desk={desk} bench={bench} />
      ) : (
        <StartBench desk={desk} />
      )}
      <Failure
        of={BENCH_WORDS.theBench}
        why={problem && [problem.message, ...problem.issues.map(({ message }) => message)].join(" ")}
      />
    </div>
  );
}

type Choice = "fitted" | "planned" | "hidden";

function StartBench({ desk }: { desk: BenchDesk }) {
  const { document } = useJob();
  const [choice, setChoice] = useState<Choice>("fitted");
  const [isStarting, setIsStarting] = useState(false);
  const start = async () => {
    setIsStarting(true);
    await desk.start({ fitting: choice === "hidden" ? hiddenFault(document.site) : choice });
    setIsStarting(false);
  };
  return (
    <section aria-label={BENCH_WORDS.noBenchYet} className="panel max-w-2xl space-y-3 p-4">
      <p className="text-lg font-bold">{BENCH_WORDS.tryThisSiteWithoutBeingThere}</p>
      <p>{BENCH_WORDS.theBenchIsThisJobsSite}</p>
      <div className="w-72 max-w-full">
        <SelectField
          label={BENCH_WORDS.cTsOnTheBench}
          value={choice}
          options={[
            { value: "fitted", label: BENCH_WORDS.asFittedInPlace },
            { value: "planned", label: BENCH_WORDS.asPlanned },
            { value: "hidden", label: BENCH_WORDS.asPlannedWithAHiddenFault },
          ]}
          onValue={(next) => setChoice(next === "planned" || next === "hidden" ? next : "fitted")}
        />
      </div>
      <button type="button" className="btn btn-primary press" disabled={isStarting} onClick={() => void start()}>
        <FlaskConical size={18} aria-hidden />
        {isStarting ? BENCH_WORDS.starting : BENCH_WORDS.startTheBench}
      </button>
    </section>
  );
}

/** One of the faults that the plan's meters can have, drawn at random: to practise on. */
function hiddenFault(site: Parameters<typeof candidateFaults>[0]): BenchRequest["fitting"] {
  const faults = candidateFaults(site).map(({ fault }) => fault);
  const fault = faults[Math.floor(Math.random() * faults.length)];
  return { faults: fault ? structuredClone([fault]) : [] } as BenchRequest["fitting"];
}

function RunningBench({ desk, bench }: { desk: BenchDesk; bench: BenchStatus }) {
  const job = useJob();
  const isOld = bench.bench.jobRevision !== job.revision;
  return (
    <>
      {isOld && (
        <div className="caution flex flex-wrap items-center gap-3">
          <p className="mr-auto">{BENCH_WORDS.theJobWasChangedSinceTheBench}</p>
          <button type="button" className="btn press" onClick={() => void desk.start({ fitting: "fitted" })}>
            {BENCH_WORDS.startItAnewAsFitted}
          </button>
        </div>
      )}
      <BenchClock desk={desk} bench={bench} />
      <div className="grid items-start gap-4 lg:grid-cols-[minmax(0,1fr)_minmax(0,1.3fr)]">
        <BenchPowers desk={desk} bench={bench} />
        <BenchCards bench={bench} />
        <BenchFaults desk={desk} bench={bench} />
        <BenchActs desk={desk} bench={bench} />
        <BenchOnline bench={bench} />
        <BenchAddresses bench={bench} />
      </div>
    </>
  );
}

/** The time on the bench, how fast it goes, and its end. */
function BenchClock({ desk, bench }: { desk: BenchDesk; bench: BenchStatus }) {
  const devices = bench.devices.map(({ node, powerW }) => ({ node, powerW, reactiveVar: 0 }));
  const hour = String(Math.floor(bench.minuteOfDay / 60)).padStart(2, "0");
  const minute = String(Math.floor(bench.minuteOfDay % 60)).padStart(2, "0");
  return (
    <section aria-label={BENCH_WORDS.timeOnTheBench} className="flex flex-wrap items-end gap-4">
      <p className="mr-auto text-xl font-bold">
        {BENCH_WORDS.theBenchRuns}
        <span className="reading">
          {hour}:{minute}
        </span>
      </p>
      <div className="w-52">
        <SelectField
          label={BENCH_WORDS.whatIsOn}
          value={bench.runs}
          options={[
            { value: "held", label: BENCH_WORDS.asISetIt },
            { value: "day", label: BENCH_WORDS.asAClearDayGoes },
          ]}
          onValue={(runs) => void desk.change({ state: { devices, runs: runs === "day" ? "day" : "held" } })}
        />
      </div>
      <div className="w-40">
        <SelectField
          label={BENCH_WORDS.timeGoes}
          value={String(bench.timeFactor)}
          options={TIME_FACTORS.map((factor) => ({ value: String(factor), label: `× ${factor}` }))}
          onValue={(factor) => void desk.change({ timeFactor: Number(factor) })}
        />
      </div>
      <button type="button" className="btn press" onClick={() => void desk.end()}>
        {BENCH_WORDS.endTheBench}
      </button>
    </section>
  );
}

/** Where any other program can read it. */
function BenchAddresses({ bench: { bench, online } }: { bench: BenchStatus }) {
  const nameOf = (device: string) => online.find((own) => own.device === device)?.name ?? device;
  const rows = [
    ...bench.lines.map(({ name, protocol, host, port, serial }) => ({
      what: name,
      how:
        protocol === "modbus-tcp"
          ? BENCH_WORDS.modbusTcp
          : BENCH_WORDS.modbusRtuOverTcp(serial ? BENCH_WORDS.atTheSpeedOfBaud(serial.baud) : ""),
      where: `${host}:${port}`,
    })),
    { what: BENCH_WORDS.gateway, how: "MQTT", where: `${bench.mqtt.host}:${bench.mqtt.port}` },
    { what: BENCH_WORDS.portal, how: BENCH_WORDS.webPage, where: bench.portal.url },
    {
      what: BENCH_WORDS.router,
      how: BENCH_WORDS.webPage,
      where: `${bench.network.gateway.host}:${bench.network.gateway.port}`,
    },
    { what: BENCH_WORDS.names, how: "DNS", where: `${bench.network.names.host}:${bench.network.names.port}` },
    ...bench.network.devices.flatMap(({ device, url, setUpUrl }) => [
      { what: nameOf(device), how: BENCH_WORDS.itsPageInTheNetwork, where: url },
      { what: nameOf(device), how: BENCH_WORDS.setUpPageOfItsAccessPoint, where: setUpUrl },
    ]),
    ...bench.can.map(({ link, host, port }) => ({
      what: link,
      how: BENCH_WORDS.canFramesAsText,
      where: `${host}:${port}`,
    })),
  ];
  return (
    <section aria-label={BENCH_WORDS.addressesOfTheBench}>
      <h3 className="mb-1 text-lg font-bold">{BENCH_WORDS.forAnyOtherProgramOnThisMachine}</h3>
      <div className="overflow-x-auto" role="region" aria-label={BENCH_WORDS.addresses} tabIndex={0}>
        <table className="stacked w-full text-left text-sm">
          <thead>
            <tr className="border-b border-base-300">
              <th scope="col">{BENCH_WORDS.link}</th>
              <th scope="col">{BENCH_WORDS.how}</th>
              <th scope="col">{BENCH_WORDS.addressTitle}</th>
            </tr>
          </thead>
          <tbody>
            {rows.map(({ what, how, where }) => (
              <tr key={where}>
                <th scope="row" className="pr-3 font-normal">
                  {what}
                </th>
                <td className="pr-3">{how}</td>
                <td className="reading">{where}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </div>
    </section>
  );
}
