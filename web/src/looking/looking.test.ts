/** How far the sheet can be zoomed, and what is kept of how one looks. */
import { withinReason, zoomed } from './looking.js';

it('zooms from the whole scene to eight frames a row, never past either', () => {
  expect(zoomed(100, 1.25, 500)).toBe(80);
  expect(zoomed(9, 1.25, 500)).toBe(8);
  expect(zoomed(8, 1.25, 500)).toBe(8);
  expect(zoomed(480, 0.5, 500)).toBe(500);
  expect(zoomed(4, 1.25, 4)).toBe(4);
});

it('moves by a frame at least, in and out', () => {
  expect(zoomed(20, 1.01, 500)).toBe(19);
  expect(zoomed(20, 0.99, 500)).toBe(21);
});

it('leaves out what was kept and cannot be meant', () => {
  expect(withinReason({ zoom: 2, lane: 'huge' as 'large', sheet: 'upright' })).toEqual({ sheet: 'upright' });
  expect(withinReason({ zoom: 40, lane: 'small', onion: true, thick: 'feet' })).toEqual({
    zoom: 40,
    lane: 'small',
    onion: true,
    thick: 'feet',
  });
});
