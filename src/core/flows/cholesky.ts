/**
 * Factor a symmetric positive definite matrix in place: A = L·Lᵀ, row-major, lower triangle kept.
 * Returns ln det A, or NaN when a pivot is not positive (the matrix is then useless).
 *
 * @param a Row-major n × n; only the lower triangle is read and written.
 * For example: `choleskyInPlace(new Float64Array([4, 0, 2, 5]), 2)` gives ln 16; a becomes [2, 0, 1, 2]
 */
export function choleskyInPlace(a: Float64Array, n: number): number {
  let logDet = 0;
  let pivots = 1;
  for (let row = 0; row < n; row++) {
    const rowStart = row * n;
    for (let column = 0; column <= row; column++) {
      const columnStart = column * n;
      let sum = a[rowStart + column]!;
      for (let k = 0; k < column; k++) sum -= a[rowStart + k]! * a[columnStart + k]!;
      if (column < row) a[rowStart + column] = sum / a[columnStart + column]!;
      else {
        if (!(sum > 0)) return NaN;
        a[rowStart + row] = Math.sqrt(sum);
        pivots *= sum;
      }
    }
    // One logarithm for several rows, taken before their product can overflow.
    if (pivots > 1e150 || pivots < 1e-150) {
      logDet += Math.log(pivots);
      pivots = 1;
    }
  }
  return logDet + Math.log(pivots);
}

/** Solve L·x = b in place for a factor from `choleskyInPlace`; b holds `columns` right sides, row-major n × columns. */
export function solveLowerInPlace(l: Float64Array, n: number, b: Float64Array, columns: number): void {
  for (let row = 0; row < n; row++) {
    for (let k = 0; k < row; k++) {
      const factor = l[row * n + k]!;
      if (factor === 0) continue;
      for (let column = 0; column < columns; column++) b[row * columns + column]! -= factor * b[k * columns + column]!;
    }
    const pivot = 1 / l[row * n + row]!;
    for (let column = 0; column < columns; column++) b[row * columns + column]! *= pivot;
  }
}

/** Solve Lᵀ·x = b in place; b holds `columns` right sides, row-major n × columns. */
export function solveUpperInPlace(l: Float64Array, n: number, b: Float64Array, columns: number): void {
  for (let row = n - 1; row >= 0; row--) {
    for (let k = row + 1; k < n; k++) {
      const factor = l[k * n + row]!;
      if (factor === 0) continue;
      for (let column = 0; column < columns; column++) b[row * columns + column]! -= factor * b[k * columns + column]!;
    }
    const pivot = 1 / l[row * n + row]!;
    for (let column = 0; column < columns; column++) b[row * columns + column]! *= pivot;
  }
}
