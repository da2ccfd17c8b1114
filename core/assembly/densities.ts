/**
 * The innermost loop of the reading, four densities at a time: of each codebook that is looked at, the densities that fit a
 * stream of features best. Compiled to WebAssembly by `npm run kernels`; `src/acoustic/densityChooser.ts` says how it is asked.
 */

/** Values of a stream, and densities that count: as in `acousticModel.ts` and `senoneScores.ts`. */
const LENGTH: i32 = 13;
const BEST: i32 = 4;
/** Values after which it is asked whether any of four densities can still be among the best. */
const FIRST_LOOK: i32 = 4;
const SECOND_LOOK: i32 = 8;
/** Of one value of four densities: four means and four precisions, in bytes. */
const STEP: i32 = 32;

/** Puts a density among the best of a row, which has `held` of them. */
function insert(logs: usize, chosen: usize, held: i32, density: i32, log: f32): void {
  let rank: i32 = min(held, BEST - 1);
  while (rank > 0 && load<f32>(logs + ((rank - 1) << 2)) < log) {
    store<f32>(logs + (rank << 2), load<f32>(logs + ((rank - 1) << 2)));
    store<i32>(chosen + (rank << 2), load<i32>(chosen + ((rank - 1) << 2)));
    rank--;
  }
  store<f32>(logs + (rank << 2), log);
  store<i32>(chosen + (rank << 2), density);
}

/** ln of one density. */
function logOf(parameters: usize, peaks: usize, values: usize, density: i32): f32 {
  let log: f32 = load<f32>(peaks + (density << 2));
  let at: usize = parameters + (density >> 2) * LENGTH * STEP + ((density & 3) << 2);
  for (let value: i32 = 0; value < LENGTH; value++, at += STEP) {
    const apart: f32 = load<f32>(values + (value << 2)) - load<f32>(at);
    log -= apart * apart * load<f32>(at, 16);
  }
  return log;
}

/** Four logarithms less what `from` up to `to` of the values take from them. */
function less(logs: v128, at: usize, values: usize, from: i32, to: i32): v128 {
  for (let value: i32 = from; value < to; value++) {
    const apart = f32x4.sub(v128.load32_splat(values + (value << 2)), v128.load(at + value * STEP));
    logs = f32x4.sub(logs, f32x4.mul(f32x4.mul(apart, apart), v128.load(at + value * STEP, 16)));
  }
  return logs;
}

/**
 * @param parameters for each row, four densities and value: four means, four precisions
 * @param peaks for each row and density
 * @param values the frame's, stream after stream
 * @param looked for each sound, whether it is looked at
 * @param chosen for each row the densities that were best last, and then those that are
 * @param logs for each row, theirs
 */
export function choose(
  parameters: usize,
  peaks: usize,
  densities: i32,
  values: usize,
  streams: i32,
  looked: usize,
  sounds: i32,
  chosen: usize,
  logs: usize,
): void {
  for (let sound: i32 = 0; sound < sounds; sound++) {
    if (load<u8>(looked + sound) === 0) continue;
    for (let stream: i32 = 0; stream < streams; stream++) {
      const row = sound * streams + stream;
      const own = parameters + row * (densities >> 2) * LENGTH * STEP;
      const tops = peaks + row * densities * 4;
      const x = values + stream * LENGTH * 4;
      const c = chosen + row * BEST * 4;
      const l = logs + row * BEST * 4;
      // Those that were best last time mostly are again.
      const was0 = load<i32>(c);
      const was1 = load<i32>(c, 4);
      const was2 = load<i32>(c, 8);
      const was3 = load<i32>(c, 12);
      insert(l, c, 0, was0, logOf(own, tops, x, was0));
      insert(l, c, 1, was1, logOf(own, tops, x, was1));
      insert(l, c, 2, was2, logOf(own, tops, x, was2));
      insert(l, c, 3, was3, logOf(own, tops, x, was3));
      let least = load<f32>(l, 12);
      for (let density: i32 = 0; density < densities; density += 4) {
        const at = own + (density >> 2) * LENGTH * STEP;
        let four = less(v128.load(tops + (density << 2)), at, x, 0, FIRST_LOOK);
        if (!v128.any_true(f32x4.gt(four, f32x4.splat(least)))) continue;
        four = less(four, at, x, FIRST_LOOK, SECOND_LOOK);
        if (!v128.any_true(f32x4.gt(four, f32x4.splat(least)))) continue;
        four = less(four, at, x, SECOND_LOOK, LENGTH);
        let better: i32 = i32x4.bitmask(f32x4.gt(four, f32x4.splat(least)));
        while (better !== 0) {
          const lane = ctz(better);
          better &= better - 1;
          const found = density + lane;
          if (found === was0 || found === was1 || found === was2 || found === was3) continue;
          const log: f32 =
            lane === 0
              ? f32x4.extract_lane(four, 0)
              : lane === 1
                ? f32x4.extract_lane(four, 1)
                : lane === 2
                  ? f32x4.extract_lane(four, 2)
                  : f32x4.extract_lane(four, 3);
          if (log <= least) continue;
          insert(l, c, BEST, found, log);
          least = load<f32>(l, 12);
        }
      }
    }
  }
}
