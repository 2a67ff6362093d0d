"use client";

import type { ApexOptions } from "apexcharts";
import { useMemo } from "react";
import Chart from "react-apexcharts";
import type { ErrorPoint } from "@/core/sensing/errorCurve";
import { INK, PLAIN_CHART } from "@/ui/parts/show/chartOptions";
import { useThreeDigits } from "@/ui/parts/browser/useNumberStyle";
import { PLAN_WORDS } from "@/ui/words/planWords";

const HEIGHT_PX = 190;

/** Error in % and in W against current. */
export function ErrorChart({ points }: { points: readonly ErrorPoint[] }) {
  const digits = useThreeDigits();
  const series = useMemo(
    () => [
      {
        name: PLAN_WORDS.error,
        data: points.map(({ currentA, errorPct }) => [currentA, errorPct] as [number, number]),
      },
      { name: PLAN_WORDS.errorW, data: points.map(({ currentA, errorW }) => [currentA, errorW] as [number, number]) },
    ],
    [points],
  );
  const options = useMemo(() => errorOptions(digits), [digits]);
  return (
    <div role="img" aria-label={PLAN_WORDS.errorInPercentAndInWattsAgainst}>
      <Chart type="line" height={HEIGHT_PX} options={options} series={series} />
    </div>
  );
}

function errorOptions(digits: (value: number) => string): ApexOptions {
  const axis = (title: string, opposite: boolean) => ({
    seriesName: title,
    opposite,
    min: 0,
    title: { text: title, style: { color: INK, fontWeight: 400 } },
    tickAmount: 4,
    labels: { formatter: digits, style: { colors: INK, fontFamily: "var(--font-mono)" } },
  });
  return {
    chart: {
      type: "line",
      ...PLAIN_CHART,
    },
    stroke: { width: [3, 3], dashArray: [0, 6], curve: "straight" },
    colors: ["var(--color-primary)", "var(--color-base-content)"],
    grid: { borderColor: "var(--color-base-300)", padding: { left: 4, right: 4 } },
    xaxis: {
      type: "numeric",
      tickAmount: 4,
      labels: {
        rotate: 0,
        hideOverlappingLabels: true,
        formatter: (value) => `${digits(Number(value))} A`,
        style: { colors: INK, fontFamily: "var(--font-mono)" },
      },
      axisBorder: { color: INK },
      axisTicks: { color: INK },
    },
    yaxis: [axis(PLAN_WORDS.error, false), axis(PLAN_WORDS.errorW, true)],
    legend: { labels: { colors: INK }, position: "top", horizontalAlign: "left" },
    tooltip: {
      shared: true,
      x: { formatter: (value) => `${digits(value)} A` },
      y: { formatter: digits },
      theme: "dark",
    },
    markers: { size: 0 },
  };
}
