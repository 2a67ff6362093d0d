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

const TIME_FACTORS = [1, 10, 60, 600];

/** Bench: this job's site, simulated on this machine, to try everything without a site. */
export function BenchStage() {
  const job = useJob();
  const desk = useBench(job.id);
  const { bench, isAsked, problem } = desk;
  return (
    <div className="mx-auto max-w-6xl space-y-4 p-4">
      <h2 className="sr-only">Bench</h2>
      {!isAsked ? (
        <p role="status">Looking for this job’s bench …</p>
      ) : bench ? (
        <RunningBench desk={desk} bench={bench} />
      ) : (
        <StartBench desk={desk} />
      )}
      <Failure
        of="The bench"
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
    <section aria-label="No bench yet" className="panel max-w-2xl space-y-3 p-4">
      <p className="text-lg font-bold">Try this site without being there</p>
      <p>
        The bench is this job’s site on this machine: every meter and inverter answers as its kit says, over Modbus,
        MQTT and CAN, so that Live, Prove and Limit can be tried. What is read from it proves nothing of the real site.
      </p>
      <div className="w-72">
        <SelectField
          label="CTs on the bench"
          value={choice}
          options={[
            { value: "fitted", label: "as fitted in Place" },
            { value: "planned", label: "as planned" },
            { value: "hidden", label: "as planned, with a hidden fault" },
          ]}
          onValue={(next) => setChoice(next === "planned" || next === "hidden" ? next : "fitted")}
        />
      </div>
      <button type="button" className="btn btn-primary press" disabled={isStarting} onClick={() => void start()}>
        <FlaskConical size={18} aria-hidden />
        {isStarting ? "Starting …" : "Start the bench"}
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
          <p className="mr-auto">The job was changed since the bench was started. It still is as it was then.</p>
          <button type="button" className="btn press" onClick={() => void desk.start({ fitting: "fitted" })}>
            Start it anew, as fitted
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
    <section aria-label="Time on the bench" className="flex flex-wrap items-end gap-4">
      <p className="mr-auto text-xl font-bold">
        The bench runs{" "}
        <span className="reading">
          {hour}:{minute}
        </span>
      </p>
      <div className="w-52">
        <SelectField
          label="What is on"
          value={bench.runs}
          options={[
            { value: "held", label: "as I set it" },
            { value: "day", label: "as a clear day goes" },
          ]}
          onValue={(runs) => void desk.change({ state: { devices, runs: runs === "day" ? "day" : "held" } })}
        />
      </div>
      <div className="w-40">
        <SelectField
          label="Time goes"
          value={String(bench.timeFactor)}
          options={TIME_FACTORS.map((factor) => ({ value: String(factor), label: `× ${factor}` }))}
          onValue={(factor) => void desk.change({ timeFactor: Number(factor) })}
        />
      </div>
      <button type="button" className="btn press" onClick={() => void desk.end()}>
        End the bench
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
          ? "Modbus TCP"
          : `Modbus RTU over TCP${serial ? `, at the speed of ${serial.baud} baud` : ""}`,
      where: `${host}:${port}`,
    })),
    { what: "Gateway", how: "MQTT", where: `${bench.mqtt.host}:${bench.mqtt.port}` },
    { what: "Portal", how: "web page", where: bench.portal.url },
    { what: "Router", how: "web page", where: `${bench.network.gateway.host}:${bench.network.gateway.port}` },
    { what: "Names", how: "DNS", where: `${bench.network.names.host}:${bench.network.names.port}` },
    ...bench.network.devices.flatMap(({ device, url, setUpUrl }) => [
      { what: nameOf(device), how: "its page in the network", where: url },
      { what: nameOf(device), how: "set-up page of its access point", where: setUpUrl },
    ]),
    ...bench.can.map(({ link, host, port }) => ({ what: link, how: "CAN frames as text", where: `${host}:${port}` })),
  ];
  return (
    <section aria-label="Addresses of the bench">
      <h3 className="mb-1 text-lg font-bold">For any other program on this machine</h3>
      <div className="overflow-x-auto" role="region" aria-label="Addresses" tabIndex={0}>
        <table className="w-full text-left text-sm">
          <thead>
            <tr className="border-b border-base-300">
              <th scope="col">Link</th>
              <th scope="col">How</th>
              <th scope="col">Address</th>
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
