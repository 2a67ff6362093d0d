"use client";

import { Eye, EyeOff, Router } from "lucide-react";
import { useState } from "react";
import type { Kit } from "@/core/kits/kitSchema";
import { accessPointName } from "@/core/online/accessPointName";
import { misreadings } from "@/core/online/passphrase/misreadings";
import { passphraseDoubt, WPA_RULE } from "@/core/online/passphrase/passphraseProblem";
import { spelled } from "@/core/online/passphrase/spelled";
import { wifiCode } from "@/core/online/passphrase/wifiCode";
import { KeyPressTable } from "@/ui/online/KeyPressTable";
import { KeptPassphrase } from "@/ui/online/KeptPassphrase";
import { QrCode } from "@/ui/online/QrCode";
import { CheckField } from "@/ui/parts/form/CheckField";
import { useJob } from "@/ui/workspace/workspaceContext";
import { ONLINE_WORDS } from "@/ui/words/onlineWords";

/**
 * A passphrase typed once: in groups, spelled, as a code that the phone joins by, as presses of keys; after a failure
 * what it may be instead. It lives in this page alone, unless somebody keeps it.
 */
export function PassphraseHelper({ kit, serial }: { kit: Kit; serial: string | undefined }) {
  const { document } = useJob();
  const [name, setName] = useState("");
  const [passphrase, setPassphrase] = useState("");
  const [isShown, setIsShown] = useState(false);
  const [isHidden, setIsHidden] = useState(document.network.hiddenName);
  const rule = kit.network?.accessPoint?.name;
  const accessPoint = rule !== undefined && serial !== undefined ? accessPointName(rule, serial) : undefined;
  const doubt = passphraseDoubt(passphrase, kit.online?.passphrase ?? WPA_RULE);
  return (
    <section aria-label={ONLINE_WORDS.passphraseHelper} className="panel space-y-3 p-3">
      <h3 className="text-lg font-bold">{ONLINE_WORDS.passphraseHelper}</h3>
      {accessPoint !== undefined && (
        <button type="button" className="btn press" onClick={() => setName(accessPoint)}>
          <Router size={18} aria-hidden />
          {ONLINE_WORDS.forItsOwnAccessPoint(accessPoint)}
        </button>
      )}
      <div className="grid gap-3 text-sm sm:grid-cols-2">
        <label>
          <span className="mb-0.5 block font-semibold">{ONLINE_WORDS.networkName}</span>
          <input
            className="field"
            autoComplete="off"
            maxLength={32}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <PassphraseField value={passphrase} isShown={isShown} onValue={setPassphrase} onShow={setIsShown} />
      </div>
      <p role="status" className="text-sm font-semibold text-warning">
        {doubt ?? ""}
      </p>
      <CheckField checked={isHidden} onCheck={setIsHidden}>
        {ONLINE_WORDS.theNetworkHidesItsName}
      </CheckField>
      <KeptPassphrase
        name={name}
        passphrase={passphrase}
        onKept={(kept) => {
          setName(kept.name);
          setPassphrase(kept.passphrase);
        }}
      />
      {isShown && passphrase !== "" && (
        <>
          <div className="flex flex-wrap items-start gap-4">
            <div className="min-w-0 flex-1 basis-72">
              <Groups passphrase={passphrase} />
            </div>
            {name !== "" && <QrCode text={wifiCode({ name, passphrase, security: "wpa", isHidden })} name={name} />}
          </div>
          {kit.online?.keys && <KeyPressTable passphrase={passphrase} keys={kit.online.keys} />}
          <Misreadings passphrase={passphrase} onTry={setPassphrase} />
        </>
      )}
    </section>
  );
}

interface FieldProps {
  readonly value: string;
  readonly isShown: boolean;
  readonly onValue: (value: string) => void;
  readonly onShow: (isShown: boolean) => void;
}

function PassphraseField({ value, isShown, onValue, onShow }: FieldProps) {
  const Icon = isShown ? EyeOff : Eye;
  return (
    <div>
      <label>
        <span className="mb-0.5 block font-semibold">{ONLINE_WORDS.passphrase}</span>
        <input
          className="field reading"
          type={isShown ? "text" : "password"}
          autoComplete="off"
          autoCapitalize="none"
          spellCheck={false}
          maxLength={63}
          value={value}
          onChange={(event) => onValue(event.target.value)}
        />
      </label>
      <button type="button" aria-pressed={isShown} className="btn press mt-1" onClick={() => onShow(!isShown)}>
        <Icon size={18} aria-hidden />
        {isShown ? ONLINE_WORDS.hideIt : ONLINE_WORDS.showItSpelled}
      </button>
    </div>
  );
}

/** In groups of four, each character with what it is taken for, and in words. */
function Groups({ passphrase }: { passphrase: string }) {
  const characters = spelled(passphrase);
  return (
    <ol aria-label={ONLINE_WORDS.passphraseSpelled} className="flex flex-wrap gap-y-2">
      {characters.map(({ character, words, mistakenFor }, at) => (
        <li
          key={at}
          className={`w-20 rounded border p-1 text-center ${at % 4 === 3 ? "mr-4" : ""} ${
            mistakenFor.length > 0 ? "border-2 border-warning" : "border-base-300"
          }`}
        >
          <span className="reading block text-2xl font-bold">{character === " " ? "␣" : character}</span>
          <span className="block text-xs">{words}</span>
          {mistakenFor.length > 0 && (
            <span className="block text-xs font-semibold text-warning">{ONLINE_WORDS.not(mistakenFor.join(" "))}</span>
          )}
        </li>
      ))}
    </ol>
  );
}

function Misreadings({ passphrase, onTry }: { passphrase: string; onTry: (passphrase: string) => void }) {
  return (
    <details>
      <summary className="press cursor-pointer font-semibold">{ONLINE_WORDS.itWasRefusedWhatItMayBeInstead}</summary>
      <ul className="mt-1 space-y-1">
        {misreadings(passphrase).map((own) => (
          <li key={own.passphrase} className="flex flex-wrap items-center gap-2 text-sm">
            <button type="button" className="btn press reading" onClick={() => onTry(own.passphrase)}>
              {own.passphrase.replace(/ $/, "␣")}
            </button>
            <span className="quiet">{own.what}</span>
          </li>
        ))}
      </ul>
    </details>
  );
}
