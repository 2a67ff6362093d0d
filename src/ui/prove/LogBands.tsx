"use client";

import type { ExpectedSeries } from "@/core/flows/log/expectedLog";
import { inputTag } from "@/core/site/inputTag";
import { windowText } from "@/core/job/placeFindings";
import type { Site } from "@/core/site/planSchema";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import { BandChart } from "@/ui/parts/show/BandChart";
import { PROVE_WORDS } from "@/ui/words/proveWords";

const HOUR_S = 3600;
const KILO = 1000;

/** What every input recorded over the hours, on the band in which a right fitting would have read. */
export function LogBands({ site, bands }: { site: Site; bands: readonly ExpectedSeries[] }) {
  const say = useSay();
  return bands.map(({ meter, input, times, readW, expectedW, bandW, outside }) => {
    const tag = inputTag(site, meter, input);
    const own = site.meters.find(({ id }) => id === meter)?.inputs.find(({ n }) => n === input);
    const count = say(
      outside === 0 ? PROVE_WORDS.allInsideTheBand : PROVE_WORDS.ofRowsOutsideTheBand(outside, times.length),
    );
    return (
      <figure key={tag}>
        <figcaption className="font-semibold">
          <span className="mr-1 rounded bg-base-300 px-1.5 text-sm">{tag}</span>
          {own && windowText(site, own.measures)}: <span className="font-normal">{count}</span>
        </figcaption>
        <BandChart
          label={PROVE_WORDS.overTheHoursMeasuredAndExpected(tag, count)}
          at={times}
          atText={hourText}
          expected={expectedW.map((watts) => watts / KILO)}
          band={bandW.map((watts) => watts / KILO)}
          measured={readW.map((watts) => (watts === null ? null : watts / KILO))}
          unit="kW"
        />
      </figure>
    );
  });
}

/** The hour of the day at a time in s. */
export function hourText(seconds: number): string {
  const minutes = Math.round(((((seconds / HOUR_S) % 24) + 24) % 24) * 60) % (24 * 60);
  const two = (value: number) => String(value).padStart(2, "0");
  return `${two(Math.floor(minutes / 60))}:${two(minutes % 60)}`;
}
