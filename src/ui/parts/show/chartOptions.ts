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
/** Of what is laid on each other: dark and light by turns, so that neighbours are told apart without their colours. */
const TONES = [
  "color-mix(in oklab, var(--color-base-content) 72%, var(--color-base-100))",
  "color-mix(in oklab, var(--color-info) 45%, var(--color-base-100))",
  "var(--color-primary)",
  "color-mix(in oklab, var(--color-success) 50%, var(--color-base-100))",
  "color-mix(in oklab, var(--color-warning) 85%, var(--color-base-content))",
];
const FIGURES = { colors: INK, fontFamily: "var(--font-mono)" };
const TICKS = [1, 2, 3, 5, 10, 15, 20, 30, 60, 120, 300];
const MOST_TICKS = 9;
const PHONE_PX = 640;
/** Watts from here on have five digits, and are read as kW. */
const FIVE_DIGITS_W = 9_999.5;
const W_PER_KW = 1000;
/** Beside the plot, for the words of a limit. */
const MARK_ROOM_PX = 112;
/** Of a plot's height: an area that is thinner than this nowhere holds its name. */
const LEAST_NAMED = 0.09;

/** What every chart of Gormit has in common: still, without tools, in the page's own type. */
export const PLAIN_CHART = {
  toolbar: { show: false },
  zoom: { enabled: false },
  animations: { enabled: false },
  fontFamily: "var(--font-sans)",
  background: "transparent",
} as const satisfies ApexOptions["chart"];

/** Powers as they are read: kW where watts would have five digits; other units as they are. */
export function readUnit(
  unit: string,
  lines: readonly ChartLine[],
  mark: number | undefined,
): { readonly unit: string; readonly per: number } {
  if (unit !== "W") return { unit, per: 1 };
  const most = Math.max(Math.abs(mark ?? 0), ...lines.map(({ values }) => largest(values)));
  return most >= FIVE_DIGITS_W ? { unit: "kW", per: W_PER_KW } : { unit, per: 1 };
}

function largest(values: readonly number[]): number {
  return values.reduce((most, value) => Math.max(most, Math.abs(value)), 0);
}

/** How lines over a measure, or bars laid on each other, are drawn. */
export function chartOptions(look: ChartLook): ApexOptions {
  const { lines, unit, atUnit, isStacked, names, digits, mark } = look;
  return {
    chart: { type: chartType(look), stacked: isStacked, ...PLAIN_CHART },
    ...strokes(look),
    colors: lines.map(({ colour }, index) => {
      const usual = isStacked ? TONES : COLOURS;
      return colour ?? usual[index % usual.length]!;
    }),
    dataLabels: { enabled: false },
    grid: { borderColor: "var(--color-base-300)", padding: { left: 4, right: mark ? MARK_ROOM_PX : 8 } },
    xaxis: xAxis(look),
    yaxis: { labels: { formatter: (value) => `${digits(value)} ${unit}`, style: FIGURES } },
    ...(names ? { responsive: [namesOnPhone()] } : {}),
    annotations: { yaxis: mark ? [markLine(mark)] : [], points: isStacked && !names ? areaNames(look) : [] },
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

/**
 * Bars stand on names; what is laid on each other over a measure is areas: a thousand bars take seconds to be drawn.
 */
export function chartType({ isStacked, names }: Pick<ChartLook, "isStacked" | "names">): "bar" | "area" | "line" {
  return !isStacked ? "line" : names ? "bar" : "area";
}

/** The name of each area where it is thickest, so that nobody looks to and fro between it and the legend. */
function areaNames({ lines, at }: ChartLook): PointAnnotations[] {
  const tops = at.map((_, index) => lines.reduce((sum, { values }) => sum + (values[index] ?? 0), 0));
  const plotTop = Math.max(...tops);
  return lines.flatMap(({ name, values }, which) => {
    const most = largest(values);
    const index = values.findIndex((value) => Math.abs(value) === most);
    if (most < LEAST_NAMED * plotTop) return [];
    const below = lines.slice(0, which).reduce((sum, other) => sum + (other.values[index] ?? 0), 0);
    return [
      {
        x: at[index] ?? 0,
        y: below + most / 2,
        marker: { size: 0 },
        label: {
          text: name,
          offsetY: 8,
          borderColor: "var(--color-base-300)",
          style: { background: "var(--color-base-100)", color: INK, fontSize: "13px", fontWeight: 600 },
        },
      },
    ];
  });
}

/** Lines are told apart by their dashes, areas by their tones. */
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
    stroke: { width: widths, dashArray: 0, curve: names ? "straight" : "stepline" },
    plotOptions: { bar: { columnWidth: "70%" } },
    fill: { type: "solid", opacity: 1 },
  };
}

function xAxis({ at, atUnit, names, digits }: ChartLook): ApexOptions["xaxis"] {
  const span = Math.max(1, at.at(-1) ?? 1);
  const tick = TICKS.find((step) => span / step <= MOST_TICKS) ?? span / MOST_TICKS;
  const endAt = Math.ceil(span / tick - 1e-6) * tick;
  return {
    // Bars stand on places in a row, lines on a measure.
    ...(names
      ? { type: "category", categories: [...names] }
      : { type: "numeric", min: 0, max: endAt, tickAmount: Math.round(endAt / tick) }),
    labels: {
      rotate: 0,
      hideOverlappingLabels: true,
      formatter: (value) => (names ? value : `${digits(Number(value))} ${atUnit}`),
      style: FIGURES,
    },
    axisBorder: { color: INK },
    axisTicks: { show: !names, color: INK },
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
      position: "right",
      textAnchor: "start",
      offsetX: 6,
      offsetY: 6,
      borderColor: "var(--color-error)",
      style: { background: "var(--color-base-100)", color: INK, fontSize: "13px" },
    },
  };
}
