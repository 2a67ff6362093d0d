"use client";

import { busOfLink } from "@/core/links/busOfLink";
import type { Link } from "@/core/links/linkSchema";
import { busFaultText, busProbes, expectedAt, readMultimeter, type BusProbe, type BusVerdict } from "@/core/links/multimeter";
import type { Rs485Bus } from "@/core/links/rs485Schema";
import { threeDigits } from "@/core/units";
import { NumberField } from "@/ui/parts/NumberField";
import { useSay } from "@/ui/parts/useNumberStyle";
import type { Wire } from "@/ui/wire/useWire";

const VERDICTS: Readonly<Record<BusVerdict["kind"], string>> = { "as-planned": "As planned", "fault": "A fault is found", "ambiguous": "Not certain yet", "not-explained": "No two faults explain this" };

/** What a multimeter shows at a bus, what that means, and where to measure next. */
export function Multimeter({ wire }: { wire: Wire }) {
  const { document: { site, kits, links } } = wire;
  const buses = links.flatMap((link) => { const bus = busOfLink(site, kits, link); return bus ? [{ link, bus }] : []; });
  if (buses.length === 0) return <p className="mx-auto max-w-6xl">No RS-485 line yet. Take the links that are proposed under Links.</p>;
  return <div className="mx-auto max-w-6xl space-y-4">{buses.map(({ link, bus }) => <BusMeasurement key={link.id} wire={wire} link={link} bus={bus} />)}</div>;
}

function BusMeasurement({ wire, link, bus }: { wire: Wire; link: Link; bus: Rs485Bus }) {
  const { document, measure } = wire;
  const say = useSay();
  const readings = document.busReadings.filter((reading) => reading.link === link.id);
  const verdict = readMultimeter(bus, readings);
  const nameOf = (probe: BusProbe) => `${probe.what === "ohm" ? "A to B" : "A against B, idle"} at ${(probe.where === "first" ? bus.devices[0] : bus.devices.at(-1))!.id}`;
  return (
    <section aria-label={link.name} className="panel grid gap-4 p-3 lg:grid-cols-2">
      <div className="space-y-2">
        <h3 className="text-lg font-bold leading-tight">{link.name}</h3>
        <div className="grid grid-cols-2 gap-2">
          {busProbes().map((probe) => {
            const unit = probe.what === "ohm" ? "Ω" : "mV";
            return (
              <NumberField key={`${probe.what} ${probe.where}`} label={nameOf(probe)} unit={unit} optional least={probe.what === "ohm" ? 0 : -100_000} most={probe.what === "ohm" ? 1e9 : 100_000}
                value={readings.find((reading) => reading.what === probe.what && reading.where === probe.where)?.value} hint={`should ${threeDigits(expectedAt(bus, [], probe))} ${unit}`}
                onValue={(value) => measure(link.id, probe, value)} />
            );
          })}
        </div>
        <p className="caution">Resistance with every supply on the bus off, voltage with supplies on and nobody asking. Keep clear of mains terminals; local rules and the maker’s manual come first.</p>
      </div>
      <div role="status" className="space-y-2">
        {readings.length === 0
          ? <p>Type what the meter shows. Begin with the resistance, everything off.</p>
          : (
            <>
              <p className="text-lg font-bold" data-bus-verdict={verdict.kind}>{VERDICTS[verdict.kind]}</p>
              <ol className="space-y-1">
                {verdict.explanations.filter(({ probability }) => probability > 0.02).slice(0, 4).map((explanation, at) => (
                  <li key={at} className="rounded border border-base-300 bg-base-100 p-2 text-sm">
                    <span className="reading mr-2 font-bold">{Math.round(100 * explanation.probability)} %</span>
                    {explanation.faults.length === 0 ? "As planned." : explanation.faults.map((fault) => { const words = busFaultText(bus, fault); return <span key={words.text}>{words.text} <b>{words.cure}. </b></span>; })}
                  </li>
                ))}
              </ol>
              {verdict.next && <p className="text-sm"><b>Measure next:</b> {nameOf(verdict.next.probe)}; tells <span className="reading">{say(`${verdict.next.gainBits.toFixed(2)} bits`)}</span>.</p>}
            </>
          )}
      </div>
    </section>
  );
}
