"use client";

import { useMemo } from "react";
import { cyclesAtSpeeds, cyclesAtSpreading } from "@/core/links/bus/otherSettings";
import { pollOfLink, type LinkPollCost } from "@/core/links/bus/pollOfLink";
import { readingAges, type ReadingAge } from "@/core/links/bus/readingAges";
import type { PlanLink } from "@/core/plan/resolvedPlan";
import { useSay } from "@/ui/parts/browser/useNumberStyle";
import type { WireDesk } from "@/ui/wire/useWire";
import { WIRE_WORDS } from "@/ui/words/wireWords";

const PARTS = [
  { key: "requestMs", name: WIRE_WORDS.request, className: "bg-primary" },
  { key: "turnaroundMs", name: WIRE_WORDS.turnaround, className: "fix-pattern text-base-content" },
  { key: "replyMs", name: WIRE_WORDS.reply, className: "bg-neutral" },
  { key: "gapsMs", name: WIRE_WORDS.gaps, className: "note-pattern text-base-content" },
  { key: "radioMs", name: WIRE_WORDS.radioLower, className: "radio-pattern" },
] as const satisfies readonly { key: keyof LinkPollCost; name: string; className: string }[];

type BusPoll = NonNullable<ReturnType<typeof pollOfLink>>;

/** How long a cycle of each bus takes, device by device, and with devices that do not answer: the age of a reading. */
export function PollTiming({ wire }: { wire: WireDesk }) {
  const { plan } = wire;
  const polls = useMemo(
    () =>
      plan.links.flatMap((link) => {
        const poll = pollOfLink(link);
        return poll
          ? [
              {
                link,
                ...poll,
                speeds: cyclesAtSpeeds(link),
                spreading: cyclesAtSpreading(link),
              },
            ]
          : [];
      }),
    [plan],
  );
  const ages = useMemo(() => readingAges(plan), [plan]);
  if (polls.length === 0 && ages.length === 0)
    return <p className="mx-auto max-w-6xl">{WIRE_WORDS.noReadingGoesOverALinkYetTake}</p>;
  return (
    <div className="mx-auto max-w-6xl space-y-5">
      {ages.length > 0 && <ReadingAges ages={ages} />}
      <PollKey polls={polls} />
      {polls.map(({ link, costs, cycleMs, throughAir, speeds, spreading }) => {
        const longest = Math.max(...costs.map((cost) => cost.aliveMs), 1);
        return (
          <BusTiming
            key={link.id}
            link={link}
            cycleMs={cycleMs}
            throughAir={throughAir}
            costs={costs}
            longest={longest}
            speeds={speeds}
            spreading={spreading}
          />
        );
      })}
    </div>
  );
}

function BusTiming({
  link,
  cycleMs,
  throughAir,
  costs,
  longest,
  speeds,
  spreading,
}: {
  link: PlanLink;
  cycleMs: readonly [number, number, number];
  throughAir: boolean;
  costs: readonly LinkPollCost[];
  longest: number;
  speeds: readonly { readonly baud: number; readonly cycleMs: number }[];
  spreading: readonly { readonly spreadingFactor: number; readonly cycleMs: number }[];
}) {
  const ms = useMilliseconds();
  const say = useSay();
  return (
    <section aria-label={link.name} className="panel p-3">
      <h3 className="font-bold">{WIRE_WORDS.aReadingIsUpToOld(link.name, ms(cycleMs[0]))}</h3>
      <p className="text-sm">
        {say(
          WIRE_WORDS.withOneDeviceDeadWithTwoSumOver(
            ms(cycleMs[1]),
            ms(cycleMs[2]),
            throughAir ? WIRE_WORDS.andBothFramesInTheAir : "",
          ),
        )}
      </p>
      <DeviceTimes costs={costs} longest={longest} />
      <p className="mt-2 text-sm">
        {WIRE_WORDS.atOtherSpeeds(
          speeds.map(({ baud, cycleMs: other }) => WIRE_WORDS.baud(baud, ms(other))).join(", "),
        )}
      </p>
      {spreading.length > 0 && (
        <p className="text-sm">
          {WIRE_WORDS.withOtherSpreadingFactors(
            spreading
              .map(({ spreadingFactor, cycleMs: other }) => WIRE_WORDS.sf(spreadingFactor, ms(other)))
              .join(", "),
          )}
        </p>
      )}
    </section>
  );
}

function ReadingAges({ ages }: { ages: readonly ReadingAge[] }) {
  const ms = useMilliseconds();
  return (
    <section aria-label={WIRE_WORDS.ageOfEachReading} className="panel p-3">
      <h3 className="font-bold">{WIRE_WORDS.howOldAReadingIsWhereItIsUsed}</h3>
      <table className="mt-1 w-full text-left text-sm">
        <thead>
          <tr className="border-b border-base-300">
            <th scope="col">{WIRE_WORDS.meter}</th>
            <th scope="col">{WIRE_WORDS.readBy}</th>
            <th scope="col" className="text-right">
              {WIRE_WORDS.atMost}
            </th>
            <th scope="col" className="text-right">
              {WIRE_WORDS.oneDeviceDead}
            </th>
          </tr>
        </thead>
        <tbody>
          {ages.map(({ meter, reader, oldestMs, oneDeadMs, way }) => (
            <tr key={meter.id} className="border-b border-base-300">
              <th scope="row" className="font-semibold">
                {meter.name}
              </th>
              <td>
                {reader.name}, {way}
              </td>
              <td className="reading text-right">{ms(oldestMs)}</td>
              <td className="reading text-right">{ms(oneDeadMs)}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </section>
  );
}

function PollKey({ polls }: { polls: readonly BusPoll[] }) {
  return (
    <p className="flex flex-wrap gap-4 text-sm">
      {PARTS.filter(({ key }) => polls.some(({ costs }) => costs.some((cost) => cost[key] > 0))).map((part) => (
        <span key={part.key} className="inline-flex items-center gap-2">
          <span
            className={`inline-block h-4 w-6 rounded-sm border border-base-content ${part.className}`}
            aria-hidden
          />
          {part.name}
        </span>
      ))}
    </p>
  );
}

function DeviceTimes({ costs, longest }: { costs: readonly LinkPollCost[]; longest: number }) {
  const ms = useMilliseconds();
  return (
    <ul className="mt-2 space-y-1">
      {costs.map((cost) => (
        <li
          key={cost.device}
          className={
            "grid grid-cols-[10rem_1fr_5rem] items-center gap-2 text-sm " + "max-md:grid-cols-[6rem_1fr_4.5rem]"
          }
        >
          <span className="truncate">{cost.device}</span>
          <span
            className="flex h-6"
            role="img"
            aria-label={PARTS.filter((part) => cost[part.key] > 0)
              .map((part) => `${part.name} ${ms(cost[part.key])}`)
              .join(", ")}
          >
            {PARTS.filter((part) => cost[part.key] > 0).map((part) => (
              <span
                key={part.key}
                title={`${part.name} ${ms(cost[part.key])}`}
                className={`h-full border-y border-r border-base-content first:border-l ${part.className}`}
                style={{ width: `${(100 * cost[part.key]) / longest}%` }}
              />
            ))}
          </span>
          <span className="reading text-right">{ms(cost.aliveMs)}</span>
        </li>
      ))}
    </ul>
  );
}

function useMilliseconds(): (ms: number) => string {
  const say = useSay();
  return (ms) => say(WIRE_WORDS.msOf(ms < 100 ? ms.toFixed(1) : String(Math.round(ms))));
}
