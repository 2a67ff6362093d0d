"use client";

import { useEffect, useState } from "react";
import type { LiveWay } from "@/core/live/liveSchema";
import { adaptersHere } from "@/ui/live/liveCalls";
import { SelectField } from "@/ui/parts/form/SelectField";
import { LIVE_WORDS } from "@/ui/words/liveWords";

const WAYS: Readonly<Record<LiveWay["kind"], string>> = {
  "modbus-tcp": LIVE_WORDS.modbusTcp,
  "rtu-over-tcp": LIVE_WORDS.modbusRtuThroughAConverter,
  serial: LIVE_WORDS.serialAdapterOnThisMachine,
  mqtt: LIVE_WORDS.mqttBroker,
};

interface Props {
  /** Ways to choose from; the first is chosen. */
  readonly kinds: readonly [LiveWay["kind"], ...LiveWay["kind"][]];
  /** What its button does. */
  readonly act: string;
  readonly isBusy: boolean;
  readonly onWay: (way: object) => void;
}

/** How a line is reached: over the network, or by an adapter of this machine. */
export function WayForm({ kinds, act, isBusy, onWay }: Props) {
  const [kind, setKind] = useState<LiveWay["kind"]>(kinds[0]);
  const [host, setHost] = useState("127.0.0.1");
  const [port, setPort] = useState("");
  const [path, setPath] = useState("");
  const ways = kinds.map((value) => ({ value, label: WAYS[value] }));
  const typed = { kind, host, port: port.trim() === "" ? undefined : Number(port) };
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        onWay(kind === "serial" ? { kind, path } : typed);
      }}
    >
      <div className="w-60 max-w-full">
        <SelectField
          label={LIVE_WORDS.way}
          value={kind}
          options={ways}
          onValue={(next) => setKind(kinds.find((own) => own === next) ?? kind)}
        />
      </div>
      {kind === "serial" ? (
        <AdapterField path={path} onPath={setPath} />
      ) : (
        <>
          <TextBox label={LIVE_WORDS.addressOrName} value={host} onValue={setHost} />
          <TextBox label={LIVE_WORDS.port} value={port} onValue={setPort} isNumber />
        </>
      )}
      <button type="submit" className="btn press" disabled={isBusy}>
        {act}
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
    <div className="w-72 max-w-full">
      <SelectField
        label={LIVE_WORDS.adapter}
        value={path}
        options={[
          { value: "", label: adapters.length === 0 ? LIVE_WORDS.noneIsPluggedInHere : LIVE_WORDS.chooseOne },
          ...adapters.map((own) => ({ value: own.path, label: own.name })),
        ]}
        onValue={onPath}
      />
    </div>
  );
}
