"use client";

import { PlugZap } from "lucide-react";
import { useEffect, useState } from "react";
import type { Bench, BenchAddress } from "@/core/bench/benchSchema";
import { liveWaySchema, type LiveWay } from "@/core/live/liveSchema";
import type { ReadableLine } from "@/core/live/readableLines";
import { adaptersHere, connectLink } from "@/ui/live/liveCalls";
import { SelectField } from "@/ui/parts/form/SelectField";
import type { ApiProblem } from "@/ui/parts/server/apiClient";

const WAYS: readonly { readonly value: LiveWay["kind"]; readonly label: string }[] = [
  { value: "modbus-tcp", label: "Modbus TCP" },
  { value: "rtu-over-tcp", label: "Modbus RTU through a converter" },
  { value: "serial", label: "Serial adapter on this machine" },
  { value: "mqtt", label: "MQTT broker" },
];

interface Props {
  readonly jobId: string;
  readonly line: ReadableLine;
  readonly benchLines: readonly BenchAddress[];
  readonly mqtt: Bench["mqtt"] | undefined;
}

/** How a link is reached; where a bench runs, one press is enough. */
export function ConnectForm({ jobId, line, benchLines, mqtt }: Props) {
  const [problem, setProblem] = useState<ApiProblem | undefined>();
  const [isBusy, setIsBusy] = useState(false);
  const connect = async (way: object) => {
    const parsed = liveWaySchema.safeParse(way);
    if (!parsed.success) {
      const issues = parsed.error.issues.map((issue) => ({ path: issue.path.join("."), message: issue.message }));
      return setProblem({ message: "This cannot be connected yet.", issues });
    }
    setIsBusy(true);
    setProblem(await connectLink(jobId, line.link, parsed.data));
    setIsBusy(false);
  };
  const onBench = benchLines.filter((own) => own.link === line.link);
  return (
    <div className="space-y-3">
      <p className="text-sm">{line.units.map(({ name, unit }) => `${name} (${unit})`).join(", ")}</p>
      <BenchButtons benchLines={onBench} mqtt={mqtt} isBusy={isBusy} onConnect={(way) => void connect(way)} />
      <WayForm isSerial={line.serial !== undefined} isBusy={isBusy} onConnect={(way) => void connect(way)} />
      {problem && (
        <div role="alert" className="text-sm font-semibold text-error">
          {problem.message}
          <ul>
            {problem.issues.map(({ path, message }) => (
              <li key={path}>{message}</li>
            ))}
          </ul>
        </div>
      )}
    </div>
  );
}

interface ButtonsProps {
  readonly benchLines: readonly BenchAddress[];
  readonly mqtt: Bench["mqtt"] | undefined;
  readonly isBusy: boolean;
  readonly onConnect: (way: object) => void;
}

/** The same link as the running bench has it. */
function BenchButtons({ benchLines, mqtt, isBusy, onConnect }: ButtonsProps) {
  if (benchLines.length === 0) return null;
  const ways = [
    ...benchLines.map(({ protocol, host, port }) => ({
      words: protocol === "modbus-tcp" ? "Modbus TCP" : "RTU line",
      way: { kind: protocol, host, port },
    })),
    ...(mqtt ? [{ words: "MQTT", way: { kind: "mqtt", host: mqtt.host, port: mqtt.port } }] : []),
  ];
  return (
    <div className="flex flex-wrap gap-2">
      {ways.map(({ words, way }, at) => (
        <button
          key={words}
          type="button"
          className={`btn press ${at === 0 ? "btn-primary" : ""}`}
          disabled={isBusy}
          onClick={() => onConnect(way)}
        >
          <PlugZap size={18} aria-hidden />
          Connect to the bench, {words}
        </button>
      ))}
    </div>
  );
}

interface WayProps {
  readonly isSerial: boolean;
  readonly isBusy: boolean;
  readonly onConnect: (way: object) => void;
}

function WayForm({ isSerial, isBusy, onConnect }: WayProps) {
  const [kind, setKind] = useState<LiveWay["kind"]>(isSerial ? "serial" : "modbus-tcp");
  const [host, setHost] = useState("127.0.0.1");
  const [port, setPort] = useState("");
  const [path, setPath] = useState("");
  const ways = WAYS.filter(({ value }) => isSerial || (value !== "serial" && value !== "rtu-over-tcp"));
  const typed = { kind, host, port: port.trim() === "" ? undefined : Number(port) };
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        onConnect(kind === "serial" ? { kind, path } : typed);
      }}
    >
      <div className="w-60">
        <SelectField
          label="Way"
          value={kind}
          options={ways}
          onValue={(next) => setKind(ways.find(({ value }) => value === next)?.value ?? kind)}
        />
      </div>
      {kind === "serial" ? (
        <AdapterField path={path} onPath={setPath} />
      ) : (
        <>
          <TextBox label="Address or name" value={host} onValue={setHost} />
          <TextBox label="Port" value={port} onValue={setPort} isNumber />
        </>
      )}
      <button type="submit" className="btn press" disabled={isBusy}>
        Connect
      </button>
    </form>
  );
}

interface TextBoxProps {
  readonly label: string;
  readonly value: string;
  readonly onValue: (value: string) => void;
  readonly isNumber?: boolean;
}

function TextBox({ label, value, onValue, isNumber = false }: TextBoxProps) {
  return (
    <label className={`block text-sm ${isNumber ? "w-28" : "w-52"}`}>
      <span className="mb-0.5 block font-semibold">{label}</span>
      <input
        className="field reading"
        value={value}
        inputMode={isNumber ? "numeric" : "text"}
        autoComplete="off"
        onChange={(event) => onValue(event.target.value)}
      />
    </label>
  );
}

/** One of the adapters that the machine names; it is looked again when the form opens. */
function AdapterField({ path, onPath }: { readonly path: string; readonly onPath: (path: string) => void }) {
  const [adapters, setAdapters] = useState<readonly { readonly path: string; readonly name: string }[]>([]);
  useEffect(() => {
    void adaptersHere().then(setAdapters);
  }, []);
  return (
    <div className="w-72">
      <SelectField
        label="Adapter"
        value={path}
        options={[
          { value: "", label: adapters.length === 0 ? "none is plugged in here" : "choose one" },
          ...adapters.map((own) => ({ value: own.path, label: own.name })),
        ]}
        onValue={onPath}
      />
    </div>
  );
}
