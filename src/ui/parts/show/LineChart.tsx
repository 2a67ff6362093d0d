"use client";

import dynamic from "next/dynamic";
import { useMemo } from "react";
import { useThreeDigits } from "@/ui/parts/browser/useNumberStyle";
import { chartOptions, chartType, readUnit, type ChartLine } from "@/ui/parts/show/chartOptions";
import { useSettled } from "@/ui/parts/show/useSettled";

const Chart = dynamic(() => import("react-apexcharts"), { ssr: false });

/** Somebody who types goes on within this: drawing for every keystroke would hold up the next. */
const DRAW_AFTER_MS = 250;

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

/** Values over time as lines, or stacked; told apart by dashes or tones as well as by colours. */
export function LineChart({ label, at, lines, unit, atUnit, heightPx = 300, mark, isStacked = false, names }: Props) {
  const digits = useThreeDigits();
  const [markAt, markWords] = [mark?.value, mark?.words ?? ""];
  const drawn = useMemo(() => {
    const read = readUnit(unit, lines, markAt);
    const shown = lines.map((line) => ({ ...line, values: line.values.map((value) => value / read.per) }));
    const markLine = markAt === undefined ? undefined : { value: markAt / read.per, words: markWords };
    const series = shown.map(({ name, values }) => ({
      name,
      data: names ? values : values.map((value, index): [number, number] => [at[index] ?? 0, value]),
    }));
    const look = { at, lines: shown, unit: read.unit, atUnit, mark: markLine, isStacked, names, digits };
    return { series, options: chartOptions(look) };
  }, [at, lines, unit, atUnit, markAt, markWords, isStacked, names, digits]);
  const { options, series } = useSettled(drawn, DRAW_AFTER_MS);
  return (
    <div role="img" aria-label={label} style={{ minHeight: heightPx }}>
      <Chart type={chartType({ isStacked, names })} height={heightPx} options={options} series={series} />
    </div>
  );
}
