import { distance, type Vec3 } from '../math/vec3.ts';
import { greatestDistance } from './greatest-distance.ts';

test('no two sampled points are farther apart, whichever is asked first', () => {
  let seed = 1;
  const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647;
  for (let round = 0; round < 40; round++) {
    const cloud = (n: number, at: number): Vec3[] =>
      Array.from({ length: n }, () => [at + random() * 9, random() * 30 - round, random()]);
    const [a, b] = [cloud(1 + (round % 60), 0), cloud(80, round - 20)];
    const most = Math.max(...a.flatMap((p) => b.map((q) => distance(p, q))));
    const found = greatestDistance(a, b)!;
    expect(found.distance).toBe(most);
    expect(distance(found.from, found.to)).toBe(most);
    expect(greatestDistance(b, a)!.distance).toBe(most);
  }
  expect(greatestDistance([], [[0, 0, 0]])).toBeNull();
});
