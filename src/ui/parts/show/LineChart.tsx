"use client";

import dynamic from "next/dynamic";
import { useMemo } from "react";
import { fewerBars } from "@/core/simulation/fewerBars";
import { useThreeDigits } from "@/ui/parts/browser/useNumberStyle";
import { chartOptions, type ChartLine } from "@/ui/parts/show/chartOptions";
import { useSettled } from "@/ui/parts/show/useSettled";

const Chart = dynamic(() => import("react-apexcharts"), { ssr: false });

/** Five minutes of a day each; narrower bars are none on a screen. */
const MOST_BARS = 288;
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
    const bars =
      isStacked && !names
        ? fewerBars(
            at,
            lines.map(({ values }) => values),
            MOST_BARS,
          )
        : undefined;
    const shownAt = bars?.at ?? at;
    return {
      options: chartOptions({
        at: shownAt,
        lines,
        unit,
        atUnit,
        mark: markAt === undefined ? undefined : { value: markAt, words: markWords },
        isStacked,
        names,
        digits,
      }),
      series: lines.map(({ name, values }, which) => ({
        name,
        data: isStacked
          ? [...(bars?.lines[which] ?? values)]
          : values.map((value, index): [number, number] => [shownAt[index] ?? 0, value]),
      })),
    };
  }, [at, lines, unit, atUnit, markAt, markWords, isStacked, names, digits]);
  const { options, series } = useSettled(drawn, DRAW_AFTER_MS);
  return (
    <div role="img" aria-label={label} style={{ minHeight: heightPx }}>
      <Chart type={isStacked ? "bar" : "line"} height={heightPx} options={options} series={series} />
    </div>
  );
}
