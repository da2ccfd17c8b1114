/** A line shot picture by picture: nothing is lost on the way, and the end is reached whatever is done in between. */
import fc from 'fast-check';
import {
  countShot,
  isShootingState,
  isShot,
  looksOfFrames,
  markAgain,
  NOT_BEGUN,
  picturesOfPull,
  pullListOf,
  sceneOfKeyed,
  shootNow,
  starterChart,
  stepShoot,
  type ShootingState,
  type ShotPicture,
} from '../index.js';

const chart = starterChart('Test', 'clay');
function pictures(cameraOn: 1 | 2): ShotPicture[] {
  const exposures = [
    { from: 0, to: 4, drawing: 'rest' },
    { from: 4, to: 6, drawing: 'press' },
    { from: 6, to: 13, drawing: 'drop' },
  ];
  const scene = sceneOfKeyed({ frameRate: { num: 12, den: 1 }, length: 13, exposures }, 1);
  const charts = new Map([[scene.tracks[0]!.chartId, chart]]);
  return picturesOfPull(pullListOf(looksOfFrames(scene, scene.tracks[0]!.id, charts), charts, cameraOn));
}

it('goes from picture to picture, with which of how many each is', () => {
  const ones = pictures(1);
  expect(ones.map(({ frame }) => frame)).toEqual(Array.from({ length: 13 }, (_, frame) => frame));
  expect(ones.slice(4, 8).map(({ shot, nth }) => `${shot.drawing!.id} ${nth} of ${shot.pictures}`)).toEqual([
    ...['press 1 of 2', 'press 2 of 2', 'drop 1 of 7', 'drop 2 of 7'],
  ]);
  expect(pictures(2).map(({ frame }) => frame)).toEqual([0, 2, 4, 6, 8, 10, 12]);
});

it('shoots a hold in one go, comes back to what is to be shot again, and ends', () => {
  const all = pictures(1);
  let state = shootNow(NOT_BEGUN, all, true);
  expect(state).toEqual({ at: 4, shot: [[0, 4]], again: [] });
  // Seen to be wrong right after it was shot.
  state = markAgain(state);
  expect(state.again).toEqual([3]);
  expect(countShot(state)).toBe(3);
  while (state.at < all.length && state.at !== 3) state = shootNow(state, all, true);
  expect(state.at).toBe(3);
  state = shootNow(state, all, false);
  expect(state).toEqual({ at: 13, shot: [[0, 13]], again: [] });
  expect(shootNow(state, all, false)).toEqual(state);
  expect(stepShoot(state, -1, all.length).at).toBe(12);
});

it('whatever is pressed, what stands is whole, what is shot stays shot, and shooting on ends it', () => {
  const all = pictures(1);
  const press = fc.constantFrom('shoot', 'go', 'back', 'on', 'again');
  fc.assert(
    fc.property(fc.array(press, { maxLength: 60 }), (presses) => {
      let state: ShootingState = NOT_BEGUN;
      for (const key of presses) {
        const before = state;
        if (key === 'shoot' || key === 'go') state = shootNow(state, all, key === 'go');
        else if (key === 'again') state = markAgain(state);
        else state = stepShoot(state, key === 'back' ? -1 : 1, all.length);
        expect(isShootingState(JSON.parse(JSON.stringify(state)), all.length)).toBe(true);
        all.forEach((_, picture) => isShot(before, picture) && expect(isShot(state, picture)).toBe(true));
      }
      for (let turn = 0; turn < 100 && countShot(state) < all.length; turn++)
        state = shootNow(state.at === all.length ? { ...state, at: 0 } : state, all, false);
      expect(countShot(state)).toBe(all.length);
    }),
  );
  for (const wrong of [
    null,
    {},
    { at: -1, shot: [], again: [] },
    { at: 0, shot: [[2, 1]], again: [] },
    { at: 0, shot: [], again: [3, 3] },
    { at: 99, shot: [], again: [] },
  ])
    expect(isShootingState(wrong, 13)).toBe(false);
});
