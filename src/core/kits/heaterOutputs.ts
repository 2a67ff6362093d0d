import type { Kit } from "@/core/kits/kitSchema";

/**
 * The outputs of a diverter's kit, in the order in which it heats them: every mains port behind its supply.
 *
 * For example: ports SUPPLY, H1, H2 give H1 and H2.
 */
export function heaterOutputs(kit: Pick<Kit, "ports">): Kit["ports"] {
  return kit.ports.filter(({ kind }) => kind === "mains").slice(1);
}
