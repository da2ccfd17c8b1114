/** Coming closer to the easel. */
import { AS_A_WHOLE, closerBy, movedBy } from './closer.js';

it('comes closer, and never further away than all of it', () => {
  expect(closerBy(AS_A_WHOLE, 2)).toEqual({ scale: 2, x: 0, y: 0 });
  expect(closerBy(AS_A_WHOLE, 0.5)).toEqual(AS_A_WHOLE);
  expect(closerBy(AS_A_WHOLE, 100).scale).toBe(12);
});

it('looks aside as far as its edge, and back to the middle when all of it is seen', () => {
  const aside = movedBy(closerBy(AS_A_WHOLE, 3), 5, -0.2);
  expect(aside).toEqual({ scale: 3, x: 1, y: -0.2 });
  expect(closerBy(aside, 1 / 3)).toEqual(AS_A_WHOLE);
});
