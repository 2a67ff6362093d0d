"use client";

import type { ApexOptions } from "apexcharts";
import dynamic from "next/dynamic";
import { useMemo } from "react";
import { useThreeDigits } from "@/ui/parts/browser/useNumberStyle";
import { INK, PLAIN_CHART } from "@/ui/parts/show/chartOptions";
import { PARTS_WORDS } from "@/ui/words/partsWords";

const Chart = dynamic(() => import("react-apexcharts"), { ssr: false });
/** Quieter than any line that is drawn over it, in both themes. */
const BAND = "color-mix(in oklab, var(--color-base-content) 30%, var(--color-base-200))";
const TICKS = 6;
/** Ticks stand at whole steps of so much, s. */
const TICK_S = 600;
const FIGURES = { colors: INK, fontFamily: "var(--font-mono)" };

interface Props {
  readonly label: string;
  readonly at: readonly number[];
  readonly atText: (at: number) => string;
  /** What it is drawn against, with half the width of its band. */
  readonly expected: readonly number[];
  readonly band: readonly number[];
  /** Gaps are null. */
  readonly measured: readonly (number | null)[];
  readonly unit: string;
  readonly heightPx?: number;
}

/** What was measured as a line over the band in which a right value lies. */
export function BandChart({ label, at, atText, expected, band, measured, unit, heightPx = 190 }: Props) {
  const digits = useThreeDigits();
  const series = useMemo(
    () => [
      {
        type: "rangeArea",
        name: PARTS_WORDS.expected,
        data: at.map((x, row) => ({ x, y: [expected[row]! - band[row]!, expected[row]! + band[row]!] })),
      },
      { type: "line", name: PARTS_WORDS.measured, data: at.map((x, row) => ({ x, y: measured[row] ?? null })) },
    ],
    [at, expected, band, measured],
  );
  const from = at[0] ?? 0;
  const tick = Math.max(1, Math.ceil(((at.at(-1) ?? 0) - from) / TICKS / TICK_S)) * TICK_S;
  const options = useMemo(
    (): ApexOptions => ({
      chart: { type: "rangeArea", ...PLAIN_CHART },
      colors: [BAND, "var(--color-primary)"],
      stroke: { width: [1, 2], curve: "straight" },
      fill: { type: "solid", opacity: 1 },
      dataLabels: { enabled: false },
      grid: { borderColor: "var(--color-base-300)", padding: { left: 4, right: 8 } },
      xaxis: {
        type: "numeric",
        min: from,
        max: from + TICKS * tick,
        tickAmount: TICKS,
        labels: { rotate: 0, hideOverlappingLabels: true, formatter: (value) => atText(Number(value)), style: FIGURES },
        tooltip: { enabled: false },
      },
      yaxis: { tickAmount: 4, labels: { formatter: (value) => `${digits(value)} ${unit}`, style: FIGURES } },
      legend: { labels: { colors: INK }, position: "top", horizontalAlign: "left" },
      tooltip: { enabled: false },
      markers: { size: 0 },
    }),
    [atText, digits, unit, from, tick],
  );
  return (
    <div role="img" aria-label={label} style={{ minHeight: heightPx }}>
      <Chart type="rangeArea" height={heightPx} options={options} series={series} />
    </div>
  );
}
