/** Benchmarks print ratios within one run: absolute times differ from machine to machine. */

export function report(name: string, value: number, unit: string, against: string): void {
  console.log(
    `${name.padEnd(58)} ${value >= 100 ? value.toFixed(0) : value.toPrecision(3)} ${unit}  (${against})`,
  );
}

/** Median of several runs, ms. */
export function medianTime(runs: number, work: () => void): number {
  const times = Array.from({ length: runs }, () => {
    const start = performance.now();
    work();
    return performance.now() - start;
  });
  return times.sort((a, b) => a - b)[runs >> 1];
}
