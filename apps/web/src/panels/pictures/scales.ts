/** Scales of drawings that a list offers: enlarging and reducing ones of ISO 5455. */
export const SCALES: readonly [number, string][] = [
  [5, '5:1'],
  [2, '2:1'],
  [1, '1:1'],
  [0.5, '1:2'],
  [0.2, '1:5'],
  [0.1, '1:10'],
];
