import { renderToStaticMarkup } from "react-dom/server";
import { afterEach, describe, expect, it, vi } from "vitest";
import { useSayDays, useWhen, type TimePart } from "@/ui/parts/browser/useWhen";

const shown = vi.hoisted(() => ({ isServed: true, dates: "day-first" }));
vi.mock("@/ui/parts/browser/useServed", () => ({ useServed: () => shown.isServed }));
vi.mock("@/ui/parts/browser/browserSetting", () => ({
  browserSetting: () => undefined,
  useBrowserSetting: () => ({ decimal: "point", dates: shown.dates }),
}));

const MOMENT = "2026-11-29T23:30:05.000Z";
const PARTS: readonly TimePart[] = ["day", "minute", "full", "clock", "second"];
const ZONES = ["UTC", "America/St_Johns", "Pacific/Kiritimati", "Asia/Kolkata"];
const zone = process.env.TZ;

function Times() {
  const when = useWhen();
  const say = useSayDays();
  return [...PARTS.map((part) => when(MOMENT, part)), when("2026-12-01", "day"), say(`kept 2026-11-29 23:30 UTC`)].join(
    " | ",
  );
}

/** What is drawn of times where the clock is that of a zone. */
function drawnIn(timeZone: string): string {
  process.env.TZ = timeZone;
  return renderToStaticMarkup(<Times />);
}

describe("A time", () => {
  afterEach(() => {
    process.env.TZ = zone;
    Object.assign(shown, { isServed: true, dates: "day-first" });
  });

  it("is drawn by a server as it is drawn once more by a browser of any other zone", () => {
    const [utc, ...others] = ZONES.map(drawnIn);
    expect(utc).toBe(
      "29 Nov 2026 | 29 Nov 23:30 | 29 Nov 2026 23:30 | 23:30 | 23:30:05 | 1 Dec 2026 | " +
        "kept 29\u00A0Nov\u00A02026\u00A023:30",
    );
    for (const other of others) expect(other).toBe(utc);
  });

  it("is then that of the person's own clock, and a day alone stays the same", () => {
    shown.isServed = false;
    expect(drawnIn("America/St_Johns")).toContain("29 Nov 20:00 | 29 Nov 2026 20:00 | 20:00 | 20:00:05 | 1 Dec 2026");
    expect(drawnIn("Pacific/Kiritimati")).toContain("30 Nov 13:30");
    expect(drawnIn("Pacific/Kiritimati")).toMatch(/ 1 Dec 2026 \| kept 30\u00A0Nov\u00A02026\u00A013:30$/);
  });

  it("is written with the month first for who writes so", () => {
    Object.assign(shown, { isServed: false, dates: "month-first" });
    expect(drawnIn("UTC")).toMatch(/^Nov 29, 2026 \| Nov 29, 11:30 PM \| Nov 29, 2026, 11:30 PM \| 11:30 PM/);
  });
});
