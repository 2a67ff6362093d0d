"use client";

import { Download, Pencil } from "lucide-react";
import Link from "next/link";
import { FromServer } from "@/ui/parts/show/FromServer";
import { useState } from "react";
import { kitDoubts } from "@/core/kits/kitDoubts";
import type { Kit } from "@/core/kits/kitSchema";
import { kitValues, type KitValue } from "@/core/kits/kitValues";
import type { LibraryKit } from "@/core/kits/libraryKit";
import { pathText } from "@/core/problem";
import { KitSheet } from "@/ui/kits/KitSheet";
import { CheckField } from "@/ui/parts/form/CheckField";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { ThemeSwitch } from "@/ui/parts/browser/ThemeSwitch";
import { KIT_KIND_WORDS } from "@/ui/plan/kindWords";
import { KITS_WORDS } from "@/ui/words/kitsWords";

/** One kit as a data sheet; every value with its use and source, and the jobs that have it. */
export function KitPage({
  entry,
  jobs,
}: {
  entry: LibraryKit;
  jobs: readonly { readonly id: string; readonly name: string }[];
}) {
  const { kit } = entry;
  const [usedOnly, setUsedOnly] = useState(false);
  const values = kitValues(kit).filter((value) => !usedOnly || value.usedFor !== "");
  const groups = [...new Set(values.map((value) => value.path.split(".")[0]!))];
  return (
    <div className="mx-auto max-w-7xl p-4 sm:p-6">
      <KitHeader entry={entry} />
      <main className="mt-3 space-y-4">
        <p className="max-w-prose">
          {kit.summary} <span className="quiet">{KITS_WORDS.id(KIT_KIND_WORDS[kit.kind], kit.id)}</span>
        </p>
        <p className="text-sm">
          <b>{KITS_WORDS.whereValuesCameFrom}</b> {kit.source}.
        </p>
        <p className="text-sm">
          <b>{KITS_WORDS.jobsWithIt}</b>{" "}
          {jobs.length === 0
            ? KITS_WORDS.none
            : jobs.map((job, at) => (
                <span key={job.id}>
                  {at > 0 && ", "}
                  <Link className="link" href={`/jobs/${job.id}/plan`}>
                    {job.name}
                  </Link>
                </span>
              ))}
        </p>
        <KitDoubts kit={kit} />
        <KitSheet kit={kit} />
        <details className="panel p-3">
          <summary className="press flex cursor-pointer items-center font-bold">
            {KITS_WORDS.everyValueWhatItIsUsed}
          </summary>
          <CheckField checked={usedOnly} onCheck={(isChecked) => setUsedOnly(isChecked)}>
            {KITS_WORDS.onlyValuesThatGormitComputesWith}
          </CheckField>
          <KitValues groups={groups} values={values} entry={entry} />
        </details>
      </main>
    </div>
  );
}

/** Values that look like a slip, where there are any. */
export function KitDoubts({ kit }: { kit: Kit }) {
  const say = useSay();
  const doubts = kitDoubts(kit);
  if (doubts.length === 0) return null;
  return (
    <ul className="caution" aria-label={KITS_WORDS.toBeLookedAtAgain}>
      {doubts.map(({ path, message }) => (
        <li key={path.join(".")}>
          {pathText(path)}: {say(message)}
        </li>
      ))}
    </ul>
  );
}

function KitHeader({ entry }: { entry: LibraryKit }) {
  const { kit, origin } = entry;
  return (
    <header className="flex flex-wrap items-end gap-3">
      <div className="min-w-0">
        <Link href="/kits" className="link quiet press inline-flex items-center text-sm">
          {KITS_WORDS.kits}
        </Link>
        <h1 className="text-3xl font-bold leading-tight">{kit.name}</h1>
      </div>
      <span className="mr-auto">
        <ThemeSwitch />
      </span>
      <FromServer href={`/api/v1/kits/${kit.id}/export`} download>
        <Download size={18} aria-hidden />
        {KITS_WORDS.export}
      </FromServer>
      <Link className="btn btn-primary press" href={`/kits/${kit.id}/edit`}>
        <Pencil size={18} aria-hidden />
        {origin === "own" ? KITS_WORDS.edit : KITS_WORDS.editACopy}
      </Link>
    </header>
  );
}

function KitValues({ groups, values, entry }: { groups: readonly string[]; values: KitValue[]; entry: LibraryKit }) {
  const say = useSay();
  const { kit } = entry;
  return (
    <div className="overflow-x-auto" role="region" aria-label={KITS_WORDS.valuesOfTheKit} tabIndex={0}>
      <table className="stacked w-full text-left text-sm">
        <thead>
          <tr className="border-b-2 border-base-300">
            <th scope="col" className="pr-4">
              {KITS_WORDS.value}
            </th>
            <th scope="col" className="pr-4"></th>
            <th scope="col" className="pr-4">
              {KITS_WORDS.usedFor}
            </th>
            <th scope="col">{KITS_WORDS.whereItCameFrom}</th>
          </tr>
        </thead>
        {groups.map((group) => (
          <tbody key={group}>
            {values
              .filter((value) => value.path.split(".")[0] === group)
              .map((value) => (
                <tr key={value.path} className="border-b border-base-300 align-top">
                  <th scope="row" className="reading break-all py-1 pr-4 font-normal max-md:whitespace-normal">
                    {value.path}
                  </th>
                  <td className="py-1 pr-4 font-semibold">{say(value.value)}</td>
                  <td data-column={KITS_WORDS.usedFor} className="py-1 pr-4">
                    <span>
                      {value.usedFor || <span className="quiet">{KITS_WORDS.keptForLinksProcedureAndControl}</span>}
                    </span>
                  </td>
                  <td data-column={KITS_WORDS.whereItCameFrom} className="py-1">
                    {value.source === kit.source ? <span className="quiet">{KITS_WORDS.asAbove}</span> : value.source}
                  </td>
                </tr>
              ))}
          </tbody>
        ))}
      </table>
    </div>
  );
}
