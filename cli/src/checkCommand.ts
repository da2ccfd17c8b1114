/** `zest check`: what an eye would catch in frames that zest key made, or somebody changed since; and what mends it. */
import { copyFileSync, writeFileSync } from 'node:fs';
import { parse, join } from 'node:path';
import {
  applyPatch,
  checkNotes,
  checkRules,
  exposuresOfTrack,
  isRefusal,
  maybePhoneme,
  mendAll,
  mendPatch,
  SCENE_KIND,
  sceneOfKeyed,
  type ChartDocument,
  type CheckJob,
  type Exposure,
  type KeyingRules,
  type Mend,
  type Note,
  type Patch,
  type Refusal,
  type RuledPhrase,
  type SceneDocument,
  type SceneSound,
} from '@zest-jaw/core';
import { randomUUID } from 'node:crypto';
import { keyedOf, type KeyedFile } from './exportSource.js';
import { chartOf } from './keyCommand.js';
import { CannotDo, parseCommandLine, WrongUse } from './outcome.js';

/** Something of weight was found. */
export const FOUND = 3;
/** From this weight on a note is of weight. */
const OF_WEIGHT = 2;
const TRACK = 'mouth1';

interface KeyedSound extends SceneSound {
  readonly confidence?: number;
  /** By its place among the words. */
  readonly word?: number | null;
}

/** What zest key prints beside frames: what was keyed, and by which rules. */
interface CheckedFile extends KeyedFile {
  readonly exposures: readonly { from: number; to: number; drawing: string; group?: string; plays?: readonly number[]; inked?: boolean }[];
  readonly notShown?: readonly { sound: number; symbol: string; reason: string }[];
  readonly sounds?: readonly KeyedSound[];
  readonly words?: readonly { readonly text: string; readonly from: number; readonly to: number; readonly confidence?: number }[];
  readonly rules?: KeyingRules;
  readonly phrases?: readonly RuledPhrase[];
}

const soundId = (index: number): string => `s${String(index).padStart(6, '0')}`;
const wordId = (index: number): string => `w${String(index).padStart(6, '0')}`;

/** The frames as a scene with one recording, in which everything is said that the file says. */
function sceneOf(file: string, keyed: CheckedFile): SceneDocument {
  const { sounds = [], words = [], rules, phrases = [] } = keyed;
  const bare = sceneOfKeyed(keyed, 0);
  const strange = sounds.find(({ symbol, from, to }) => !maybePhoneme(symbol) || !(from >= 0 && from < to));
  if (strange)
    throw new CannotDo(
      `${file}: its sounds have “${String(strange.symbol)}” from ${strange.from} to ${strange.to}. Key the reading again.`,
    );
  const [fault] = rules ? checkRules(rules) : [];
  if (fault) throw new CannotDo(`${file}: ${fault}`);
  const end = Math.max(1, ...sounds.map(({ to }) => to), ...words.map(({ to }) => to));
  const clip: SceneDocument['clips'][number] = {
    ...{ id: 'clip', characterId: bare.tracks[0]!.characterId, audio: '0'.repeat(64), fileName: parse(file).base, atFrame: 0 },
    ...{
      lengthSamples: end,
      fromSample: 0,
      toSample: end,
      gainDb: 0,
      muted: false,
      soloed: false,
      readOf: null,
      script: '',
      language: 'en',
    },
    ...(phrases.length > 0 && { phrases: phrases.map(({ from, to, rules: own }) => ({ from, to: Math.min(to, end), rules: own })) }),
  };
  return {
    ...bare,
    clips: sounds.length > 0 ? [clip] : [],
    words: words.map(({ text, from, to, confidence = 1 }, index) => ({
      ...{ id: wordId(index), clip: 'clip', text, fromSample: from, toSample: to, confidence },
    })),
    phonemes: sounds.map(({ symbol, stress, from, to, confidence = 1, word }, index) => ({
      ...{
        id: soundId(index),
        clip: 'clip',
        word: typeof word === 'number' ? wordId(word) : null,
        symbol,
        fromSample: from,
        toSample: to,
        confidence,
      },
      ...(stress !== undefined && { stress }),
    })),
    tracks: bare.tracks.map((track) => (rules ? { ...track, rules } : track)),
    exposures: bare.exposures.map((exposure, index): Exposure => {
      const { plays = [], inked = false } = keyed.exposures[index]!;
      return { ...exposure, inked, plays: plays.filter((sound) => sounds[sound]).map(soundId) };
    }),
  };
}

/** Without its sounds a file says still what could not be shown, and which mouths stand for a closure that they do not show. */
function notesWithoutSounds(keyed: CheckedFile, chart: ChartDocument): Note[] {
  const must = new Set(chart.groups.filter((group) => group.must).map(({ id }) => id));
  const label = (id: string): string => chart.drawings.find((drawing) => drawing.id === id)?.label ?? id;
  const plain = { kind: 'closure-missing' as const, track: TRACK, sure: 0.9, weight: 3 as const, look: '', isInk: false };
  const changed = keyed.exposures.flatMap(({ from, to, drawing, group }): Note[] => {
    const own = chart.drawings.filter(({ groups }) => group !== undefined && groups.includes(group));
    if (group === undefined || !must.has(group) || own.length === 0 || own.some(({ id }) => id === drawing)) return [];
    const why = `These frames are for “${chart.groups.find(({ id }) => id === group)!.name}”, and “${label(drawing)}” is there.`;
    const mends: Mend[] = [{ do: 'lay', track: TRACK, from, to, pieces: [{ from, to, drawing: own[0]!.id }] }];
    return [{ ...plain, id: `closure-missing ${from}`, from, to, why, mends }];
  });
  const unseen = (keyed.notShown ?? []).map(({ reason, sound }): Note => ({
    ...plain,
    id: `closure-missing sound ${sound}`,
    from: 0,
    to: keyed.length,
    why: reason,
    mends: [],
  }));
  return [...changed, ...unseen];
}

/** What is printed of a note. */
const printed = ({ kind, from, to, why, weight, mends }: Note): object => ({ kind, from, to, why, weight, mend: mends[0] ?? null });

const newId = (): string => randomUUID();

/** Everything that is mended without asking: pencil, in one go. */
function mendedScene(job: CheckJob, notes: readonly Note[], hasSounds: boolean): { scene: SceneDocument; mended: number } {
  if (hasSounds) {
    const all = mendAll(job, notes, newId);
    return isRefusal(all) ? { scene: job.scene, mended: 0 } : { scene: applyPatch(SCENE_KIND, job.scene, all.patch), mended: all.mended };
  }
  let [scene, mended] = [job.scene, 0];
  for (const note of notes) {
    const [mend] = note.mends;
    const patch: Patch | Refusal = mend ? mendPatch({ ...job, scene }, mend, newId) : { refusal: 'Nothing mends it.' };
    if (isRefusal(patch)) continue;
    scene = applyPatch(SCENE_KIND, scene, patch);
    mended += 1;
  }
  return { scene, mended };
}

/** The file with the mouths that it has come to. */
function writtenAs(keyed: CheckedFile, scene: SceneDocument, chart: ChartDocument): CheckedFile {
  const numbers = new Map((keyed.sounds ?? []).map((_, index) => [soundId(index), index]));
  const groupOf = (from: number, drawing: string): string =>
    keyed.exposures.find((one) => one.from <= from && from < one.to && one.drawing === drawing)?.group ??
    chart.drawings.find(({ id }) => id === drawing)?.groups[0] ??
    '';
  const exposures = exposuresOfTrack(scene, TRACK).map(({ from, to, drawing, plays, inked }) => ({
    ...{ from, to, drawing, group: groupOf(from, drawing), plays: plays.flatMap((id) => numbers.get(id) ?? []) },
    ...(inked && { inked }),
  }));
  return { ...keyed, exposures };
}

export async function checkCommand(args: string[]): Promise<number> {
  const { values, positionals } = parseCommandLine(args, {
    chart: { type: 'string' },
    mend: { type: 'boolean', default: false },
  });
  const [file, target, ...more] = positionals;
  if (file === undefined || more.length > 0 || (target !== undefined && !values.mend))
    throw new WrongUse('Name one keyed file to check, and with --mend another to write the mended one to.');
  const chart = chartOf(values.chart);
  const keyed = keyedOf(file, chart) as CheckedFile;
  const charts = new Map([['chart', chart]]);
  const hasSounds = (keyed.sounds?.length ?? 0) > 0;
  const notesOf = (made: CheckedFile): { job: CheckJob; notes: Note[] } => {
    const job: CheckJob = { scene: sceneOf(file, made), charts };
    return { job, notes: [...checkNotes(job), ...(hasSounds ? [] : notesWithoutSounds(made, chart))].sort((a, b) => a.from - b.from) };
  };
  let { job, notes } = notesOf(keyed);
  let mended: number | undefined;
  if (values.mend) {
    const made = mendedScene(job, notes, hasSounds);
    mended = made.mended;
    const after = writtenAs(keyed, made.scene, chart);
    if (target === undefined) {
      // What was there stays, beside it.
      const { dir, name, ext } = parse(file);
      copyFileSync(file, join(dir, `${name}.before${ext}`));
    }
    writeFileSync(target ?? file, `${JSON.stringify(after)}\n`);
    ({ job, notes } = notesOf(after));
  }
  process.stdout.write(`${JSON.stringify({ notes: notes.map(printed), ...(mended !== undefined && { mended }) })}\n`);
  return notes.some(({ weight }) => weight >= OF_WEIGHT) ? FOUND : 0;
}
