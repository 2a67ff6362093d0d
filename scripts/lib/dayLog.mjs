/**
 * A made-up day of a house as a portal would write it: kW every ten minutes, the sun with clouds, a house that does not
 * follow it. What the second input shows is turned round, so that there is something to find.
 *
 * @returns {string} CSV with decimal commas.
 */
export function dayLog() {
  const rows = Array.from({ length: 144 }, (_, row) => {
    const hour = row / 6;
    const cloud = 0.75 + 0.2 * Math.sin(2.3 * row) * Math.sin(0.7 * row);
    const sun = 3.2 * Math.max(0, Math.sin((Math.PI * (hour - 5)) / 15)) * cloud;
    const cooking = (hour > 7 && hour < 7.6) || (hour > 18 && hour < 19) ? 1.9 : 0;
    const fridge = row % 5 === 0 ? 0.11 : 0;
    return { hour, kilowatts: [0.24 + cooking + fridge - sun, -sun, sun] };
  });
  const lines = rows.map(({ hour, kilowatts }) =>
    [`2026-06-03 ${clock(hour)}`, ...kilowatts.map((value) => value.toFixed(3).replace(".", ","))].join(";"),
  );
  return ["Time;A1 (kW);A2 (kW);Solar (kW)", ...lines].join("\n");
}

/** @param {number} hour */
function clock(hour) {
  const two = (/** @type {number} */ value) => String(value).padStart(2, "0");
  return `${two(Math.floor(hour))}:${two(Math.round((hour % 1) * 60))}`;
}
