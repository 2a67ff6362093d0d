"use client";

import dynamic from "next/dynamic";
import { useMemo } from "react";
import { useThreeDigits } from "@/ui/parts/browser/useNumberStyle";
import { chartOptions, type ChartLine } from "@/ui/parts/show/chartOptions";
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

/** Values over time as lines, or stacked; told apart by dashes as well as by colours. */
export function LineChart({ label, at, lines, unit, atUnit, heightPx = 300, mark, isStacked = false, names }: Props) {
  const digits = useThreeDigits();
  const [markAt, markWords] = [mark?.value, mark?.words ?? ""];
  const drawn = useMemo(() => {
    const markLine = markAt === undefined ? undefined : { value: markAt, words: markWords };
    const series = lines.map(({ name, values }) => ({
      name,
      data: isStacked ? [...values] : values.map((value, index): [number, number] => [at[index] ?? 0, value]),
    }));
    return { series, options: chartOptions({ at, lines, unit, atUnit, mark: markLine, isStacked, names, digits }) };
  }, [at, lines, unit, atUnit, markAt, markWords, isStacked, names, digits]);
  const { options, series } = useSettled(drawn, DRAW_AFTER_MS);
  return (
    <div role="img" aria-label={label} style={{ minHeight: heightPx }}>
      <Chart type={isStacked ? "bar" : "line"} height={heightPx} options={options} series={series} />
    </div>
  );
}
