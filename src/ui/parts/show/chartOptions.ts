import type { ApexOptions } from "apexcharts";

export interface ChartLine {
  readonly name: string;
  readonly values: readonly number[];
  /** Told by its dashes too, not by its colour alone. */
  readonly dash?: number;
  readonly width?: number;
  readonly colour?: string;
}

export interface ChartLook {
  readonly at: readonly number[];
  readonly lines: readonly ChartLine[];
  readonly unit: string;
  readonly atUnit: string;
  /** Drawn across with its words. */
  readonly mark: { readonly value: number; readonly words: string } | undefined;
  /** Filled and laid on each other. */
  readonly isStacked: boolean;
  /** Of the places, where they have names instead of measures. */
  readonly names: readonly string[] | undefined;
  /** A number as the person writes it. */
  readonly digits: (value: number) => string;
}

export const INK = "var(--color-base-content)";

const COLOURS = [
  "var(--color-primary)",
  "var(--color-base-content)",
  "var(--color-info)",
  "var(--color-warning)",
  "var(--color-success)",
  "var(--color-error)",
];
const DASHES = [0, 6, 2, 10, 4, 14];
const FILLS = ["squares", "slantedLines", "horizontalLines", "verticalLines", "circles"];
const FIGURES = { colors: INK, fontFamily: "var(--font-mono)" };
const TICKS = [1, 2, 3, 5, 10, 15, 20, 30, 60, 120, 300];
const MOST_TICKS = 9;
const PHONE_PX = 640;

/** What every chart of Gormit has in common: still, without tools, in the page's own type. */
export const PLAIN_CHART = {
  toolbar: { show: false },
  zoom: { enabled: false },
  animations: { enabled: false },
  fontFamily: "var(--font-sans)",
  background: "transparent",
} as const satisfies ApexOptions["chart"];

/** How lines over a measure, or bars laid on each other, are drawn. */
export function chartOptions(look: ChartLook): ApexOptions {
  const { lines, unit, atUnit, isStacked, names, digits, mark } = look;
  return {
    chart: { type: isStacked ? "bar" : "line", stacked: isStacked, ...PLAIN_CHART },
    ...strokes(look),
    colors: lines.map(({ colour }, index) => colour ?? COLOURS[index % COLOURS.length]!),
    dataLabels: { enabled: false },
    grid: { borderColor: "var(--color-base-300)", padding: { left: 4, right: 8 } },
    xaxis: xAxis(look),
    yaxis: { labels: { formatter: (value) => `${digits(value)} ${unit}`, style: FIGURES } },
    ...(names ? { responsive: [namesOnPhone()] } : {}),
    ...(mark ? { annotations: { yaxis: [markLine(mark)] } } : {}),
    legend: { labels: { colors: INK }, position: "top", horizontalAlign: "left", showForSingleSeries: true },
    tooltip: {
      shared: true,
      intersect: false,
      x: { formatter: (value) => (names ? (names[value - 1] ?? "") : `${digits(value)} ${atUnit}`) },
      y: { formatter: (value) => `${digits(value)} ${unit}` },
      theme: "dark",
    },
    markers: { size: 0 },
  };
}

/** Lines are told apart by their dashes, areas by their patterns. */
function strokes({ lines, isStacked, names }: ChartLook): Pick<ApexOptions, "stroke" | "fill" | "plotOptions"> {
  const widths = lines.map(({ width }) => width ?? (isStacked ? 0 : 2.5));
  if (!isStacked)
    return {
      stroke: {
        width: widths,
        dashArray: lines.map(({ dash }, index) => dash ?? DASHES[index % DASHES.length]!),
        curve: "straight",
      },
      fill: { type: "solid", opacity: 1 },
    };
  return {
    stroke: { width: widths, dashArray: 0, curve: "straight" },
    plotOptions: { bar: { columnWidth: names ? "70%" : "100%" } },
    fill: { type: "pattern", pattern: { style: FILLS, width: 4, height: 4, strokeWidth: 3 }, opacity: 1 },
  };
}

function xAxis({ at, atUnit, isStacked, names, digits }: ChartLook): ApexOptions["xaxis"] {
  const span = Math.max(1, at.at(-1) ?? 1);
  const tick = TICKS.find((step) => span / step <= MOST_TICKS) ?? span / MOST_TICKS;
  const endAt = Math.ceil(span / tick - 1e-6) * tick;
  return {
    // Bars stand on places in a row, lines on a measure.
    ...(isStacked
      ? {
          type: "category",
          categories: names ? [...names] : at.map(String),
          ...(names ? {} : { tickAmount: Math.round(span / tick) - 1 }),
        }
      : { type: "numeric", min: 0, max: endAt, tickAmount: Math.round(endAt / tick) }),
    labels: {
      rotate: 0,
      hideOverlappingLabels: true,
      formatter: (value) => (names ? value : `${digits(Number(value))} ${atUnit}`),
      style: FIGURES,
    },
    axisBorder: { color: INK },
    axisTicks: { show: !isStacked, color: INK },
    tooltip: { enabled: false },
  };
}

/** Names of twelve months stand side by side on a phone. */
function namesOnPhone() {
  const style = { colors: INK, fontFamily: "var(--font-sans)", fontSize: "9px" };
  return { breakpoint: PHONE_PX, options: { xaxis: { labels: { style } } } };
}

function markLine({ value, words }: NonNullable<ChartLook["mark"]>): YAxisAnnotations {
  return {
    y: value,
    borderColor: "var(--color-error)",
    strokeDashArray: 4,
    borderWidth: 2,
    label: {
      text: words,
      position: "left",
      textAnchor: "start",
      style: { background: "var(--color-base-100)", color: INK, fontSize: "13px" },
    },
  };
}
