"use client";

import { useState } from "react";
import type { Chain } from "@/core/chain/chainOf";
import { reachSteps, type ReachStep } from "@/core/chain/reachSteps";
import { SET_UP_BY, type SetUp } from "@/core/kits/onlineKitSchema";
import { accessPointName, fitsAccessPoint } from "@/core/online/accessPointName";
import { PassphraseHelper } from "@/ui/online/PassphraseHelper";
import type { OnlineDesk } from "@/ui/online/useOnline";
import { SelectField } from "@/ui/parts/form/SelectField";
import { useJob, useVisitWork } from "@/ui/workspace/workspaceContext";
import { ONLINE_WORDS } from "@/ui/words/onlineWords";

/** How one device is reached and set, act by act, and the passphrase that is typed there. */
export function SetUpPart({ desk, chain }: { desk: OnlineDesk; chain: Chain }) {
  const { device } = chain;
  // What is seen through a module is set up at the module.
  const target = chain.through?.kit.kind === "dongle" ? chain.through : device;
  const ways = target.kit.online?.setUp ?? [];
  const [at, setAt] = useState(0);
  const setUp = ways[at] ?? ways[0];
  const serial = useSerialOf(target.id);
  if (!setUp)
    return (
      <section aria-label={ONLINE_WORDS.reach(device.name)} className="min-w-0 space-y-3">
        <p className="panel p-3">{ONLINE_WORDS.theKitOfDoesNotSayHowItIsReached(device.name)}</p>
        <PassphraseHelper kit={target.kit} serial={serial} />
      </section>
    );
  return (
    <section aria-label={ONLINE_WORDS.reach(target.name)} className="min-w-0 space-y-3">
      <div className="w-72 max-w-full">
        <SelectField
          label={ONLINE_WORDS.reachBy(target.name)}
          value={String(at)}
          options={ways.map(({ by }, which) => ({
            value: String(which),
            label: SET_UP_BY.find(({ id }) => id === by)!.name,
          }))}
          onValue={(value) => setAt(Number(value))}
        />
      </div>
      <ReachList key={at} desk={desk} chain={chain} target={target} setUp={setUp} />
      {target.kit.network?.accessPoint && <NameCheck target={target} />}
      <PassphraseHelper kit={target.kit} serial={serial} />
    </section>
  );
}

type Target = Chain["device"];

interface ListProps {
  readonly desk: OnlineDesk;
  readonly chain: Chain;
  readonly target: Target;
  readonly setUp: SetUp;
}

/** The acts, each ticked off; after an interruption it says where to begin again. */
function ReachList({ desk, chain, target, setUp }: ListProps) {
  const { document } = useJob();
  const serial = useSerialOf(target.id);
  const [done, setDone] = useState(0);
  const way = chain.way !== undefined && setUp.sets.includes(chain.way) ? chain.way : setUp.sets[0]!;
  const steps = reachSteps(target.kit, setUp, { serial, network: document.network, way });
  const begin = lastRestart(steps, done);
  return (
    <div className="panel p-3">
      <ol className="space-y-1">
        {steps.map(({ id, text }, at) => (
          <li key={id}>
            <label className={`press flex items-start gap-2 rounded p-1 ${at === done ? "font-bold" : ""}`}>
              <input
                type="checkbox"
                className="checkbox mt-0.5"
                checked={at < done}
                onChange={(event) => setDone(event.target.checked ? at + 1 : at)}
              />
              <span className={at < done ? "quiet" : ""}>{text}</span>
            </label>
          </li>
        ))}
      </ol>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        <button
          type="button"
          className="btn press"
          disabled={done === 0}
          onClick={() => {
            desk.log(ONLINE_WORDS.settingUpWasInterruptedBegunAgain(target.name, steps[begin]!.text));
            setDone(begin);
          }}
        >
          {ONLINE_WORDS.interruptedBeginAgain}
        </button>
        {done > 0 && done < steps.length && (
          <span className="quiet text-sm">
            {ONLINE_WORDS.thenFrom} {steps[begin]!.text.split(/[;:]/)[0]}
          </span>
        )}
      </div>
    </div>
  );
}

/** What was reached last that a page, wiped by a phone call, begins again from. */
function lastRestart(steps: readonly ReachStep[], done: number): number {
  const at = steps.findLastIndex(({ isRestart }, which) => isRestart && which <= done);
  return Math.max(0, at);
}

/** Whether the network that the phone lists is this device's. */
function NameCheck({ target }: { target: Target }) {
  const serial = useSerialOf(target.id);
  const [name, setName] = useState("");
  const rule = target.kit.network!.accessPoint!.name;
  const wanted = serial === undefined ? undefined : accessPointName(rule, serial);
  const fits = name.trim() === "" ? undefined : fitsAccessPoint(rule, name, serial);
  return (
    <div className="panel p-3 text-sm">
      <label>
        <span className="mb-0.5 block font-semibold">{ONLINE_WORDS.networkNameThatThePhoneLists}</span>
        <input
          className="field reading"
          autoComplete="off"
          placeholder={wanted ?? "kit-234567"}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <p role="status" className={`mt-1 font-semibold ${fits === false ? "text-error" : "text-success"}`}>
        {fits === undefined
          ? ""
          : fits
            ? serial === undefined
              ? ONLINE_WORDS.itsFormIsRightWithTheSerialNumber
              : ONLINE_WORDS.thisDevice
            : ONLINE_WORDS.notThisDeviceItsNameDoesNotFollow}
      </p>
    </div>
  );
}

/** As it was read in the visit. */
function useSerialOf(device: string): string | undefined {
  const { log } = useVisitWork();
  const read = log.entries.findLast((entry) => entry.kind === "result" && entry.step === `serial:${device}`);
  return read?.kind === "result" ? read.serial : undefined;
}
