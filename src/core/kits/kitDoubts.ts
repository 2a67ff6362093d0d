import { isQuickPattern } from "@/core/kits/quickPattern";
import type { Kit } from "@/core/kits/kitSchema";

/** The most that a CT gives at its secondary as a rule: 5 A (IEC 61869-2), and 10 V of those with a burden inside. */
const MOST = { A: 5, mA: 5_000, V: 10, mV: 10_000 } as const;

const SLOW_PATTERN =
  "serial numbers are not held against this pattern: write it without groups and choices, and with at most one part " +
  "of varying length, such as ^GK[A-Z][0-9]{7}$";

/** A value that a kit may have and hardly any has; the file is good all the same. */
export interface KitDoubt {
  readonly path: readonly (string | number)[];
  readonly message: string;
}

/**
 * Values of a kit that look like a slip: a secondary that is rather a primary, a serial pattern that cannot be used.
 *
 * For example: A secondary of 40 A gives "40 A at the secondary: CTs give 5 A at most as a rule; is it the primary?"
 */
export function kitDoubts(kit: Kit): readonly KitDoubt[] {
  return [
    ...(kit.metering?.inputs ?? []).flatMap(({ secondary }, at) =>
      doubtOf(secondary, ["metering", "inputs", at, "secondary"]),
    ),
    ...(kit.clamp ? doubtOf(kit.clamp.secondary, ["clamp", "secondary"]) : []),
    ...(kit.clamp?.primariesA ?? []).flatMap((primaryA, at) =>
      kit.clamp!.secondary.unit === "A" && primaryA < kit.clamp!.secondary.value
        ? [
            {
              path: ["clamp", "primariesA", at],
              message: `${primaryA} A is less than its secondary: are the two exchanged?`,
            },
          ]
        : [],
    ),
    ...(kit.serialPattern === undefined || isQuickPattern(kit.serialPattern)
      ? []
      : [{ path: ["serialPattern"], message: SLOW_PATTERN }]),
  ];
}

function doubtOf(
  { value, unit }: { readonly value: number; readonly unit: keyof typeof MOST },
  path: readonly (string | number)[],
): readonly KitDoubt[] {
  if (value <= MOST[unit]) return [];
  const most = unit.endsWith("A") ? "5 A" : "10 V";
  const message = `${value} ${unit} at the secondary: CTs give ${most} at most as a rule; is it the primary?`;
  return [{ path, message }];
}
