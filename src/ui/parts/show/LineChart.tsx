"use client";

import type { ApexOptions } from "apexcharts";
import dynamic from "next/dynamic";
import { useMemo } from "react";
import { threeDigits } from "@/core/units";
import { useSay } from "@/ui/parts/browser/useNumberStyle";

const Chart = dynamic(() => import("react-apexcharts"), { ssr: false });

export interface ChartLine {
  readonly name: string;
  readonly values: readonly number[];
  /** Told by its dashes too, not by its colour alone. */
  readonly dash?: number;
  readonly width?: number;
  readonly colour?: string;
}

interface Props {
  readonly label: string;
  readonly at: readonly number[];
  readonly lines: readonly ChartLine[];
  readonly unit: string;
  readonly atUnit: string;
  readonly heightPx?: number;
  /** Drawn across with its words. */
  readonly mark?: { readonly value: number; readonly words: string };
  /** Filled and laid on each other. */
  readonly isStacked?: boolean;
  /** Of the places, where they have names instead of measures. */
  readonly names?: readonly string[];
}

const COLOURS = [
  "var(--color-primary)",
  "var(--color-base-content)",
  "var(--color-info)",
  "var(--color-warning)",
  "var(--color-success)",
  "var(--color-error)",
];
const DASHES = [0, 6, 2, 10, 4, 14];

const TICKS = [1, 2, 3, 5, 10, 15, 20, 30, 60, 120, 300];
const MOST_TICKS = 9;

/** Values over time as lines, or stacked; told apart by dashes as well as by colours. */
export function LineChart({ label, at, lines, unit, atUnit, heightPx = 300, mark, isStacked = false, names }: Props) {
  const say = useSay();
  const series = useMemo(
    () =>
      lines.map(({ name, values }) => ({
        name,
        data: isStacked ? [...values] : values.map((value, index) => [at[index] ?? 0, value] as [number, number]),
      })),
    [at, lines, isStacked],
  );
  const options = useMemo((): ApexOptions => {
    const ink = "var(--color-base-content)";
    const digits = (value: number) => say(String(threeDigits(value)));
    const span = Math.max(1, at.at(-1) ?? 1);
    const tick = TICKS.find((step) => span / step <= MOST_TICKS) ?? span / MOST_TICKS;
    const endAt = Math.ceil(span / tick - 1e-6) * tick;
    return {
      chart: {
        type: isStacked ? "bar" : "line",
        stacked: isStacked,
        toolbar: { show: false },
        zoom: { enabled: false },
        animations: { enabled: false },
        fontFamily: "var(--font-sans)",
        background: "transparent",
      },
      stroke: {
        width: lines.map(({ width }) => width ?? (isStacked ? 0 : 2.5)),
        dashArray: isStacked ? 0 : lines.map(({ dash }, index) => dash ?? DASHES[index % DASHES.length]!),
        curve: "straight",
      },
      ...(isStacked ? { plotOptions: { bar: { columnWidth: names ? "70%" : "100%" } } } : {}),
      fill: isStacked
        ? {
            type: "pattern",
            pattern: {
              style: ["squares", "slantedLines", "horizontalLines", "verticalLines", "circles"],
              width: 4,
              height: 4,
              strokeWidth: 3,
            },
            opacity: 1,
          }
        : { type: "solid", opacity: 1 },
      colors: lines.map(({ colour }, index) => colour ?? COLOURS[index % COLOURS.length]!),
      dataLabels: { enabled: false },
      grid: { borderColor: "var(--color-base-300)", padding: { left: 4, right: 8 } },
      xaxis: {
        // Bars stand on places in a row, lines on a measure.
        ...(isStacked
          ? {
              type: "category",
              categories: names ? [...names] : at.map((value) => String(threeDigits(value))),
              ...(names ? {} : { tickAmount: Math.round(span / tick) - 1 }),
            }
          : { type: "numeric", min: 0, max: endAt, tickAmount: Math.round(endAt / tick) }),
        labels: {
          rotate: 0,
          hideOverlappingLabels: true,
          formatter: (value) => (names ? value : `${digits(Number(value))} ${atUnit}`),
          style: { colors: ink, fontFamily: "var(--font-mono)" },
        },
        axisBorder: { color: ink },
        axisTicks: { show: !isStacked, color: ink },
        tooltip: { enabled: false },
      },
      // Names of twelve months side by side on a phone.
      ...(names
        ? {
            responsive: [
              {
                breakpoint: 640,
                options: {
                  xaxis: { labels: { style: { colors: ink, fontFamily: "var(--font-sans)", fontSize: "9px" } } },
                },
              },
            ],
          }
        : {}),
      yaxis: {
        labels: {
          formatter: (value) => `${digits(value)} ${unit}`,
          style: { colors: ink, fontFamily: "var(--font-mono)" },
        },
      },
      ...(mark
        ? {
            annotations: {
              yaxis: [
                {
                  y: mark.value,
                  borderColor: "var(--color-error)",
                  strokeDashArray: 4,
                  borderWidth: 2,
                  label: {
                    text: mark.words,
                    position: "left",
                    textAnchor: "start",
                    style: { background: "var(--color-base-100)", color: ink, fontSize: "13px" },
                  },
                },
              ],
            },
          }
        : {}),
      legend: { labels: { colors: ink }, position: "top", horizontalAlign: "left", showForSingleSeries: true },
      tooltip: {
        shared: true,
        intersect: false,
        x: { formatter: (value) => (names ? (names[value - 1] ?? "") : `${digits(value)} ${atUnit}`) },
        y: { formatter: (value) => `${digits(value)} ${unit}` },
        theme: "dark",
      },
      markers: { size: 0 },
    };
  }, [say, at, lines, unit, atUnit, mark, isStacked, names]);
  return (
    <div role="img" aria-label={label} style={{ minHeight: heightPx }}>
      <Chart type={isStacked ? "bar" : "line"} height={heightPx} options={options} series={series} />
    </div>
  );
}
