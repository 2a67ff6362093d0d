/** 36 AWG has 0.005 in of diameter; 39 numbers thicker, 4/0 has 92 times as much (ASTM B258). */
const AWG_36_MM = 0.127;
const AWG_36 = 36;
const RATIO = 92;
const RATIO_STEPS = 39;
/** A circle of a thousandth of an inch of diameter, a thousand times. */
const MM2_PER_KCMIL = 0.506707;
/** What is in the shops of a 120/240 V country, thinnest first; few sell the odd numbers between. */
const SOLD_AWG = [26, 24, 22, 20, 18, 16, 14, 12, 10, 8, 6, 4, 3, 2, 1, 0, -1, -2, -3];
const SOLD_KCMIL = [250, 300, 350, 400, 500, 600, 750, 1000];
const SOLD = [
  ...SOLD_AWG.map((gauge) => ({ name: gaugeName(gauge), areaMm2: gaugeMm2(gauge) })),
  ...SOLD_KCMIL.map((kcmil) => ({ name: `${kcmil} kcmil`, areaMm2: kcmilMm2(kcmil) })),
];
/** Sections are printed with two or three digits: what is as near as this is the same wire. */
const SAME_WITHIN = 0.02;

/**
 * The size that is sold where wire goes by gauge, for a section: the same wire, else the next that is as large (a
 * conductor, a least), or that is as small (the most that a terminal takes). Undefined beyond what is sold.
 *
 * @param areaMm2 Section of one conductor, mm².
 * @example soldWireSize(8.37, "as-large") // "8 AWG"
 * @example soldWireSize(2.5, "as-large") // "12 AWG"
 * @example soldWireSize(2.5, "as-small") // "14 AWG"
 */
export function soldWireSize(areaMm2: number, which: "as-large" | "as-small"): string | undefined {
  const size =
    which === "as-large"
      ? SOLD.find((own) => own.areaMm2 >= areaMm2 * (1 - SAME_WITHIN))
      : SOLD.findLast((own) => own.areaMm2 <= areaMm2 * (1 + SAME_WITHIN));
  return size?.name;
}

/**
 * The size that a section is; undefined where it is between two.
 *
 * @example wireSizeOf(107) // "4/0 AWG"
 * @example wireSizeOf(127) // "250 kcmil"
 */
export function wireSizeOf(areaMm2: number): string | undefined {
  return SOLD.find((own) => Math.abs(own.areaMm2 - areaMm2) <= SAME_WITHIN * areaMm2)?.name;
}

/**
 * Section of a gauge, mm², as tables print it. 1/0 is the gauge 0, 4/0 is −3.
 *
 * d = 0.127 mm · 92^((36 − n) / 39), of which the circle is taken (ASTM B258).
 *
 * @example gaugeMm2(8) // 8.37
 */
export function gaugeMm2(gauge: number): number {
  const diameterMm = AWG_36_MM * RATIO ** ((AWG_36 - gauge) / RATIO_STEPS);
  return asPrinted((Math.PI / 4) * diameterMm ** 2);
}

/**
 * Section of so many thousand circular mils, mm², as tables print it.
 *
 * @example kcmilMm2(250) // 127
 */
export function kcmilMm2(kcmil: number): number {
  return asPrinted(kcmil * MM2_PER_KCMIL);
}

function gaugeName(gauge: number): string {
  return gauge > 0 ? `${gauge} AWG` : `${1 - gauge}/0 AWG`;
}

/** Three digits, as tables of wire print them. */
function asPrinted(areaMm2: number): number {
  return Number(areaMm2.toPrecision(3));
}
