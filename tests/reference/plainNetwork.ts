/** A resistor between two nodes, or from a node to ground ("ground") or to the supply ("rail"), Ω. */
export type Resistor = readonly [a: string, b: string, ohm: number];

/**
 * Voltages of a resistor network by nodal analysis, the plain way: one full matrix, Gaussian elimination with the
 * largest pivot. Ground is 0 V, the rail is held at its voltage, a current may be sent from one node to another.
 */
export function nodeVolts(
  resistors: readonly Resistor[],
  {
    railV = 0,
    sent,
  }: { readonly railV?: number; readonly sent?: { readonly into: string; readonly outOf: string } } = {},
): ReadonlyMap<string, number> {
  const names = [...new Set(resistors.flatMap(([a, b]) => [a, b]))].filter(
    (name) => name !== "ground" && name !== "rail",
  );
  const at = new Map(names.map((name, index) => [name, index]));
  const matrix = names.map(() => new Array<number>(names.length + 1).fill(0));
  for (const name of names) matrix[at.get(name)!]![at.get(name)!]! += 1e-9;
  for (const [a, b, ohm] of resistors)
    for (const [own, other] of [
      [a, b],
      [b, a],
    ] as const) {
      const row = at.get(own);
      if (row === undefined) continue;
      matrix[row]![row]! += 1 / ohm;
      const column = at.get(other);
      if (column !== undefined) matrix[row]![column]! -= 1 / ohm;
      else if (other === "rail") matrix[row]![names.length]! += railV / ohm;
    }
  if (sent) {
    matrix[at.get(sent.into)!]![names.length]! += 1;
    matrix[at.get(sent.outOf)!]![names.length]! -= 1;
  }
  for (let column = 0; column < names.length; column++) {
    let pivot = column;
    for (let row = column + 1; row < names.length; row++)
      if (Math.abs(matrix[row]![column]!) > Math.abs(matrix[pivot]![column]!)) pivot = row;
    [matrix[column], matrix[pivot]] = [matrix[pivot]!, matrix[column]!];
    for (let row = 0; row < names.length; row++) {
      if (row === column) continue;
      const factor = matrix[row]![column]! / matrix[column]![column]!;
      if (factor !== 0) for (let k = column; k <= names.length; k++) matrix[row]![k]! -= factor * matrix[column]![k]!;
    }
  }
  return new Map(names.map((name, index) => [name, matrix[index]![names.length]! / matrix[index]![index]!]));
}
