import { z } from "zod";
import { text } from "@/core/text";

/** What patterns were called before their names said what the site is: in jobs, links and requests of then. */
const FORMER: Readonly<Record<string, string>> = {
  S01: "diverter-and-hub",
  S02: "hybrid-high-voltage",
  S03: "two-ct-add-on",
  S04: "display-and-keys",
  S05: "three-phase-storage",
  S06: "battery-of-another-maker",
  S07: "energy-manager",
  S08: "cascade-with-backup-box",
  S09: "cellular-shared-pair",
  S10: "power-line-modules",
  S11: "local-monitor",
  S12: "bluetooth-set-up",
  S13: "meter-on-second-pair",
  S14: "outbuilding-radio-pair",
  S15: "router-changed",
  S16: "split-phase-backup",
  S17: "export-controller",
  S18: "metering-gateway",
  S19: "cascaded-logger",
};

/** The name of a site pattern: what the site is, in small letters and hyphens. */
export const patternIdSchema = text()
  .max(64, "at most 64 characters")
  .regex(/^[a-z]+(-[a-z]+)*$/, "small letters and hyphens that say what the site is");

/** The same, taking the names of before too. */
export const askedPatternIdSchema = z.preprocess(
  (value) => (typeof value === "string" ? presentPatternId(value) : value),
  text()
    .max(64)
    .regex(/^[a-z]+(-[a-z]+)*$/, "choose a pattern"),
);

/**
 * The name that a pattern has now.
 *
 * @example presentPatternId("S17") // "export-controller"
 * @example presentPatternId("router-changed") // "router-changed"
 */
export function presentPatternId(id: string): string {
  return Object.hasOwn(FORMER, id) ? FORMER[id]! : id;
}
