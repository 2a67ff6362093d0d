import { seededNormal, seededUniform } from "@/core/random";
import { inOneGo, type Slices } from "@/core/slices";

const DEG = Math.PI / 180;
const MINUTES_A_DAY = 1440;
/** Sun's power on a surface square to it, outside the air, W/m². */
const SOLAR_CONSTANT = 1361;
const STANDARD_IRRADIANCE = 1000;
const ALBEDO = 0.2;
/** Inverter, cable, heat and dirt. */
const SYSTEM_SHARE = 0.86;

/** Where the sun shines: degrees, and hours from UTC. */
export interface SunPlace {
  readonly latDeg: number;
  readonly lonDeg: number;
  /** Of the site's clock, h. */
  readonly utcOffsetH: number;
}

/** A field of modules: kWp, tilt and azimuth in degrees. */
export interface PvField {
  readonly kwp: number;
  /** 0 flat, 90 upright. */
  readonly tiltDeg: number;
  /** 180 south, 90 east, 270 west; to the equator where nobody said. */
  readonly azimuthDeg?: number | undefined;
}

/** Elevation and azimuth of the sun, degrees. */
export interface SunPosition {
  readonly elevationDeg: number;
  /** From north over east. */
  readonly azimuthDeg: number;
}

/**
 * Where the sun stands, by declination and equation of time (Spencer 1971), good to about a quarter of a degree.
 *
 * For example: At 52° N on 21 June at true noon: elevation 61.45°.
 *
 * @param dayOfYear 1 for the first of January.
 * @param minuteOfDay By the site's clock.
 */
export function sunPosition(place: SunPlace, dayOfYear: number, minuteOfDay: number): SunPosition {
  const angle = (2 * Math.PI * (dayOfYear - 1 + (minuteOfDay / MINUTES_A_DAY - 0.5))) / 365;
  const declination =
    0.006918 -
    0.399912 * Math.cos(angle) +
    0.070257 * Math.sin(angle) -
    0.006758 * Math.cos(2 * angle) +
    0.000907 * Math.sin(2 * angle) -
    0.002697 * Math.cos(3 * angle) +
    0.00148 * Math.sin(3 * angle);
  const equationMin =
    229.18 *
    (0.000075 +
      0.001868 * Math.cos(angle) -
      0.032077 * Math.sin(angle) -
      0.014615 * Math.cos(2 * angle) -
      0.040849 * Math.sin(2 * angle));
  const solarMin = minuteOfDay + equationMin + 4 * place.lonDeg - 60 * place.utcOffsetH;
  const hourAngle = (solarMin / 4 - 180) * DEG;
  const lat = place.latDeg * DEG;
  const sinElevation =
    Math.sin(lat) * Math.sin(declination) + Math.cos(lat) * Math.cos(declination) * Math.cos(hourAngle);
  const azimuth = Math.atan2(
    Math.sin(hourAngle),
    Math.cos(hourAngle) * Math.sin(lat) - Math.tan(declination) * Math.cos(lat),
  );
  return {
    elevationDeg: Math.asin(Math.max(-1, Math.min(1, sinElevation))) / DEG,
    azimuthDeg: (azimuth / DEG + 180 + 360) % 360,
  };
}

/**
 * What a field makes under a sky of some clearness, W: global light by Haurwitz (1945), parted into beam and diffuse by
 * Erbs (1982), on a tilted surface with an even sky.
 *
 * For example: 5 kWp flat under a clear sky with the sun at 60°: about 3.8 kW.
 *
 * @param clearness 1 clear, about 0.2 overcast.
 */
export function fieldPowerW(
  { azimuthDeg = TO_THE_EQUATOR.north, ...field }: PvField,
  sun: SunPosition,
  dayOfYear: number,
  clearness: number,
): number {
  if (sun.elevationDeg <= 0) return 0;
  const cosZenith = Math.sin(sun.elevationDeg * DEG);
  const global = 1098 * cosZenith * Math.exp(-0.059 / cosZenith) * clearness;
  const outside = SOLAR_CONSTANT * (1 + 0.033 * Math.cos((2 * Math.PI * dayOfYear) / 365)) * cosZenith;
  const kt = Math.min(1, global / outside);
  const share =
    kt <= 0.22
      ? 1 - 0.09 * kt
      : kt > 0.8
        ? 0.165
        : 0.9511 - 0.1604 * kt + 4.388 * kt ** 2 - 16.638 * kt ** 3 + 12.336 * kt ** 4;
  const diffuse = global * share;
  const tilt = field.tiltDeg * DEG;
  const cosIncidence = Math.max(
    0,
    cosZenith * Math.cos(tilt) +
      Math.cos(sun.elevationDeg * DEG) * Math.sin(tilt) * Math.cos((sun.azimuthDeg - azimuthDeg) * DEG),
  );
  // Near the horizon the ratio of the two would blow up what is hardly there.
  const beam = (global - diffuse) * Math.min(8, cosIncidence / cosZenith);
  const onField = beam + (diffuse * (1 + Math.cos(tilt))) / 2 + (ALBEDO * global * (1 - Math.cos(tilt))) / 2;
  return (1000 * field.kwp * SYSTEM_SHARE * onField) / STANDARD_IRRADIANCE;
}

/** Where a field looks where nobody said: to the equator, degrees. */
export function usualAzimuthDeg({ latDeg }: Pick<SunPlace, "latDeg">): number {
  return latDeg < 0 ? TO_THE_EQUATOR.south : TO_THE_EQUATOR.north;
}

/**
 * What several fields make over days, W, the mean of each step: the sun every ten minutes and between them in straight
 * lines, clouds from a seeded generator: a clearness for each day by month and latitude, and passing clouds within it
 * that last some minutes. The same seed gives the same weather at every width of the steps.
 *
 * @param cloudiness 0 always clear, 0.6 as usual there, 1 mostly cloudy.
 * For example: `sunSeries(place, [field], 172, 1, 1, 0, 1)` gives a clear day, 1440 values
 */
export function sunSeries(
  place: SunPlace,
  fields: readonly PvField[],
  firstDay: number,
  days: number,
  stepMin: number,
  cloudiness: number,
  seed: number,
): Float64Array {
  return inOneGo(sunSeriesInSlices(place, fields, firstDay, days, stepMin, cloudiness, seed));
}

/** `sunSeries` in slices, one a day. */
export function* sunSeriesInSlices(
  place: SunPlace,
  given: readonly PvField[],
  firstDay: number,
  days: number,
  stepMin: number,
  cloudiness: number,
  seed: number,
): Slices<Float64Array> {
  const fields = given.map((field) => ({ ...field, azimuthDeg: field.azimuthDeg ?? usualAzimuthDeg(place) }));
  const perDay = Math.round(MINUTES_A_DAY / stepMin);
  const series = new Float64Array(days * perDay);
  const uniform = seededUniform(seed);
  const daily = seededNormal(seed + 1);
  const passingBy = seededNormal(seed + 2);
  const knots = MINUTES_A_DAY / KNOT_MIN + 1;
  const clear = new Float64Array(knots);
  const dull = new Float64Array(knots);
  /** Energy of the day until each minute, W·min. */
  const until = new Float64Array(MINUTES_A_DAY + 1);
  const lasts = Math.exp(-1 / PASSING_MIN);
  let passing = 0;
  let yesterday = 0.5;
  for (let day = 0; day < days; day++) {
    const ofYear = ((firstDay - 1 + day) % 365) + 1;
    for (let knot = 0; knot < knots; knot++) {
      const sun = sunPosition(place, ofYear, knot * KNOT_MIN);
      clear[knot] = fields.reduce((sum, field) => sum + fieldPowerW(field, sun, ofYear, 1), 0);
      dull[knot] = fields.reduce((sum, field) => sum + fieldPowerW(field, sun, ofYear, DULL), 0);
    }
    // Weather lasts: a day is rather like the one before.
    yesterday = Math.min(1, Math.max(0, 0.55 * yesterday + 0.45 * uniform() + 0.12 * daily()));
    const cover = Math.min(1, ((2 * cloudiness) / USUAL_CLOUDINESS) * usualCover(place, ofYear) * yesterday);
    const flicker = 4 * cover * (1 - cover);
    for (let minute = 0; minute < MINUTES_A_DAY; minute++) {
      passing = lasts * passing + Math.sqrt(1 - lasts ** 2) * passingBy();
      const share = Math.min(1, Math.max(0, cover + 0.45 * flicker * passing));
      const position = (minute + 0.5) / KNOT_MIN;
      const knot = Math.floor(position);
      const part = position - knot;
      const bright = clear[knot]! + part * (clear[knot + 1]! - clear[knot]!);
      const grey = dull[knot]! + part * (dull[knot + 1]! - dull[knot]!);
      until[minute + 1] = until[minute]! + bright + share * (grey - bright);
    }
    for (let at = 0; at < perDay; at++)
      series[day * perDay + at] = (valueAt(until, (at + 1) * stepMin) - valueAt(until, at * stepMin)) / stepMin;
    yield;
  }
  return series;
}

function valueAt(until: Float64Array, minute: number): number {
  const at = Math.min(MINUTES_A_DAY, minute);
  const whole = Math.min(MINUTES_A_DAY - 1, Math.floor(at));
  return until[whole]! + (at - whole) * (until[whole + 1]! - until[whole]!);
}

/**
 * How much of the sky clouds usually cover on a day: what the usual clearness index of the month leaves of a clear sky.
 */
function usualCover(place: SunPlace, dayOfYear: number): number {
  const [global, outside] = clearDay(place, dayOfYear);
  if (outside <= 0) return 0;
  const wanted = usualClearness(place.latDeg, dayOfYear) / (global / outside);
  return Math.min(1, Math.max(0, (1 - wanted) / (1 - DULL)));
}

/** Of a day under a clear sky: on flat ground, and outside the air; in the same unit. */
function clearDay(place: SunPlace, dayOfYear: number): readonly [number, number] {
  let [global, outside] = [0, 0];
  for (let minute = 0; minute < MINUTES_A_DAY; minute += 3 * KNOT_MIN) {
    const { elevationDeg } = sunPosition({ ...place, lonDeg: 0, utcOffsetH: 0 }, dayOfYear, minute);
    if (elevationDeg <= 0) continue;
    const cosZenith = Math.sin(elevationDeg * DEG);
    global += 1098 * cosZenith * Math.exp(-0.059 / cosZenith);
    outside += SOLAR_CONSTANT * (1 + 0.033 * Math.cos((2 * Math.PI * dayOfYear) / 365)) * cosZenith;
  }
  return [global, outside];
}

/** Between the months and the latitudes of the table; the south has the seasons half a year later. */
function usualClearness(latDeg: number, dayOfYear: number): number {
  const season = latDeg < 0 ? (dayOfYear + 182) % 365 : dayOfYear;
  const month = (season / 365) * 12 - 0.5;
  const [before, part] = [Math.floor(month), month - Math.floor(month)];
  const of = (row: (typeof USUAL_CLEARNESS)[number]) => {
    const at = (which: number) => row.months[(which + 12) % 12]!;
    return at(before) + part * (at(before + 1) - at(before));
  };
  const lat = Math.abs(latDeg);
  const above = USUAL_CLEARNESS.findIndex((row) => row.latDeg >= lat);
  if (above < 0) return of(USUAL_CLEARNESS.at(-1)!);
  if (above === 0) return of(USUAL_CLEARNESS[0]!);
  const [low, high] = [USUAL_CLEARNESS[above - 1]!, USUAL_CLEARNESS[above]!];
  return of(low) + ((lat - low.latDeg) / (high.latDeg - low.latDeg)) * (of(high) - of(low));
}

const TO_THE_EQUATOR = { north: 180, south: 0 } as const;
/** What is left of the light under a closed sky. */
const DULL = 0.25;
/** The cloudiness at which the sky is as usual there. */
const USUAL_CLOUDINESS = 0.6;
const KNOT_MIN = 10;
/** How long a passing cloud lasts: after so long a third of it is still there, min. */
const PASSING_MIN = 14;
/**
 * Light on flat ground over that outside the air, by month from January, in the middle of a winter half year first:
 * rounded long-term means of measured climates at these latitudes.
 */
const USUAL_CLEARNESS = [
  { latDeg: 20, months: [0.58, 0.59, 0.58, 0.57, 0.55, 0.53, 0.52, 0.52, 0.53, 0.55, 0.57, 0.57] },
  { latDeg: 36, months: [0.51, 0.53, 0.55, 0.57, 0.59, 0.62, 0.63, 0.62, 0.59, 0.55, 0.52, 0.49] },
  { latDeg: 52, months: [0.31, 0.36, 0.4, 0.44, 0.46, 0.46, 0.46, 0.46, 0.44, 0.39, 0.33, 0.28] },
  { latDeg: 62, months: [0.3, 0.37, 0.43, 0.46, 0.48, 0.48, 0.47, 0.45, 0.42, 0.36, 0.3, 0.25] },
] as const;
