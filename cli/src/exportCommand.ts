/** `zest export`: exposures to all that is handed off of them: pictures, sprites, sheets, key lists, weights, curves, a timeline. */
import { mkdirSync, writeFileSync } from 'node:fs';
import { extname, join, parse } from 'node:path';
import {
  checkPictureOptions,
  EASE_LIMITS,
  checkReading,
  exposureSheetCsv,
  firstCounted,
  holdsCsv,
  LABEL_KINDS,
  looksOfFrames,
  nameOfLane,
  maybeLabelKind,
  PICTURE_LIMITS,
  placesCsv,
  plannedPictures,
  sceneSettings,
  sceneWave,
  textOfHandOff,
  writeLabels,
  type Counting,
  type CountsFrom,
  type CountsIn,
  type KeyNumbers,
  type PictureFormat,
  type PicturePlace,
  type Reading,
  type TextFormat,
  type TextRequest,
  type WhichPictures,
} from '@zest-jaw/core';
import { exposureSheetPdf, renderPictures, SPRITE_LIMITS, spriteSheet, writeBundle, type Paper } from '@zest-jaw/engine/hand-off';
import { openSource } from './exportSource.js';
import { CannotDo, parseCommandLine, readJson, wholeNumber, WrongUse } from './outcome.js';

/** The labels of a reading, in the format of the file's name. */
function writeLabelFile(readingFile: string, file: string): void {
  const reading = readJson(readingFile);
  const [fault] = checkReading(reading);
  if (fault) throw new CannotDo(`${readingFile}: ${fault}`);
  const kind = maybeLabelKind(file);
  if (!kind) throw new CannotDo(`${file} is no file of labels by its name. It may end in ${LABEL_KINDS.join(', ')}.`);
  try {
    writeFileSync(file, writeLabels(kind, reading as Reading, { name: parse(file).name }));
  } catch (error) {
    throw new CannotDo(`${file} could not be written (${String((error as NodeJS.ErrnoException).code)}). Check its folder.`);
  }
}

/** One of some words, or WrongUse. */
function oneOf<T extends string>(name: string, text: string, words: readonly T[]): T {
  const found = words.find((word) => word === text);
  if (found === undefined) throw new WrongUse(`--${name} is “${text}”. It may be ${words.join(', ')}.`);
  return found;
}

/** What is written of a keyed file, by the option that asks for it: each may be asked for several times. */
const TARGETS = ['pictures', 'sprites', 'sheet', 'keys', 'weights', 'curves', 'timeline', 'shots', 'bundle'] as const;
type Target = (typeof TARGETS)[number];

/** Blocks of the printed wave in a frame. */
const WAVE_BLOCKS = 4;

/** What a file's name may end in. */
const ENDINGS: Readonly<Record<Exclude<Target, 'pictures' | 'sprites'>, readonly string[]>> = {
  sheet: ['.csv', '.pdf'],
  keys: ['.csv', '.json'],
  weights: ['.csv', '.json'],
  curves: ['.csv', '.json'],
  timeline: ['.otio'],
  shots: ['.csv'],
  bundle: ['.zip'],
};

/** The ending of a file that is asked for, one of those it may have. */
function endingOf(target: keyof typeof ENDINGS, file: string): string {
  const ending = extname(file).toLowerCase();
  if (!ENDINGS[target].includes(ending)) throw new WrongUse(`--${target} ${file}: its name may end in ${ENDINGS[target].join(' or ')}.`);
  return ending;
}

export async function exportCommand(args: string[]): Promise<void> {
  const several = { type: 'string', multiple: true } as const;
  const { values, positionals } = parseCommandLine(args, {
    pictures: several,
    sprites: several,
    sheet: several,
    keys: several,
    weights: several,
    curves: several,
    timeline: several,
    shots: several,
    bundle: several,
    chart: { type: 'string' },
    scene: { type: 'string' },
    speaker: { type: 'string' },
    name: { type: 'string', default: 'mouth' },
    'first-number': { type: 'string' },
    width: { type: 'string', default: '1920' },
    height: { type: 'string', default: '1080' },
    digits: { type: 'string', default: '4' },
    which: { type: 'string', default: 'every' },
    'picture-format': { type: 'string', default: 'png' },
    ground: { type: 'string' },
    cut: { type: 'boolean', default: false },
    cell: { type: 'string', default: '256' },
    'powers-of-two': { type: 'boolean', default: false },
    paper: { type: 'string', default: 'A4' },
    'count-from': { type: 'string', default: 'scene' },
    'count-in': { type: 'string', default: 'frames' },
    'non-drop': { type: 'boolean', default: false },
    numbers: { type: 'string', default: 'own' },
    'every-frame': { type: 'boolean', default: false },
    guards: { type: 'boolean', default: false },
    ease: { type: 'string', default: '1' },
    'camera-on': { type: 'string', default: '1' },
    labels: { type: 'string' },
  });
  const [file, ...more] = positionals;
  if (file === undefined || more.length > 0) throw new WrongUse('Name one file that zest key made.');
  const asked = TARGETS.flatMap((target) => (values[target] ?? []).map((path) => ({ target, path })));
  if (values.labels !== undefined) {
    if (asked.length > 0)
      throw new WrongUse('Labels are made of a reading, everything else of what zest key made: export them one at a time.');
    writeLabelFile(file, values.labels);
    return;
  }
  if (asked.length === 0)
    throw new WrongUse(
      'Say where to: --pictures DIR, --sprites DIR, --sheet FILE.csv or .pdf, --keys, --weights or --curves FILE.csv or .json, --timeline FILE.otio, --shots FILE.csv, --bundle FILE.zip.',
    );
  for (const { target, path } of asked) if (target !== 'pictures' && target !== 'sprites') endingOf(target, path);
  const firstNumber = values['first-number'] === undefined ? undefined : wholeNumber('first-number', values['first-number'], 0, 9_999_999);
  const drawn = {
    baseName: values.name,
    width: wholeNumber('width', values.width, 1, 100_000),
    height: wholeNumber('height', values.height, 1, 100_000),
    digits: wholeNumber('digits', values.digits, PICTURE_LIMITS.fewestDigits, PICTURE_LIMITS.mostDigits),
    which: oneOf<WhichPictures>('which', values.which, ['every', 'changes', 'chart']),
    format: oneOf<PictureFormat>('picture-format', values['picture-format'], ['png', 'webp']),
    ground: values.ground ?? null,
    cut: values.cut,
  };
  const cell = wholeNumber('cell', values.cell, SPRITE_LIMITS.least, SPRITE_LIMITS.most);
  const ease = wholeNumber('ease', values.ease, EASE_LIMITS.least, EASE_LIMITS.most);
  const cameraOn = wholeNumber('camera-on', values['camera-on'], 1, 2) as 1 | 2;
  const paper = oneOf<Paper>('paper', values.paper, ['A4', 'Letter']);
  const keyOptions = {
    numbers: oneOf<KeyNumbers>('numbers', values.numbers, ['own', 'from 0', 'from 1']),
    everyFrame: values['every-frame'],
    guards: values.guards,
  };
  const counting: Counting = {
    from: oneOf<CountsFrom>('count-from', values['count-from'], ['0', '1', 'scene']),
    unit: oneOf<CountsIn>('count-in', values['count-in'], ['frames', 'seconds', 'timecode']),
    drop: !values['non-drop'],
  };
  const source = openSource(file, {
    chart: values.chart,
    scene: values.scene,
    speaker: values.speaker,
    name: values.name,
    firstNumber: values['first-number'] === undefined ? undefined : firstNumber,
  });
  const { scene, trackId, charts, hrefOf } = source;
  const options = { ...drawn, firstNumber: firstNumber ?? sceneSettings(scene).firstFrame };
  const [fault] = values.pictures === undefined ? [] : checkPictureOptions(options, sceneSettings(scene).lengthFrames);
  if (fault) throw new WrongUse(fault);
  const formatOf = (target: keyof typeof ENDINGS, path: string): TextFormat => (endingOf(target, path) === '.json' ? 'json' : 'csv');
  const text = (path: string, request: TextRequest): void =>
    writeFileSync(path, textOfHandOff(scene, trackId, charts, request, request.kind === 'curves' ? source.levels() : undefined));
  const sheet = async (path: string): Promise<string | Uint8Array> => {
    const tracks = scene.tracks.map((lane) => ({ trackId: lane.id, name: nameOfLane(lane, source.nameOf(lane.characterId)), charts }));
    if (endingOf('sheet', path) === '.csv')
      return exposureSheetCsv(scene, tracks, { firstNumber: firstCounted(scene, counting), drop: counting.drop });
    const date = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long' }).format(new Date());
    const wave = sceneWave(scene, source.soundOf, WAVE_BLOCKS);
    const heard = wave.loudest > 0 && { wave };
    return exposureSheetPdf(scene, tracks, { paper, counting, production: source.production, date, ...heard });
  };
  const write: Readonly<Record<Target, (path: string) => void | Promise<void>>> = {
    pictures: async (folder) => {
      mkdirSync(folder, { recursive: true });
      const places: [string, PicturePlace][] = [];
      const planned = plannedPictures(looksOfFrames(scene, trackId, charts), charts, options);
      await renderPictures(planned, charts, { ...options, withHead: false }, hrefOf, ({ name, bytes, place }) => {
        writeFileSync(join(folder, name), bytes);
        if (place) places.push([name, place]);
      });
      if (places.length > 0) writeFileSync(join(folder, 'places.csv'), placesCsv(places, options));
      if (options.which === 'changes') writeFileSync(join(folder, 'holds.csv'), holdsCsv(planned, options));
    },
    sprites: async (folder) => {
      mkdirSync(folder, { recursive: true });
      const [own] = charts.values();
      const made = await spriteSheet(own!, { cell, powersOfTwo: values['powers-of-two'] }, hrefOf);
      if ('refusal' in made) throw new CannotDo(made.refusal);
      const { png, svg, table } = made;
      writeFileSync(join(folder, 'sprites.png'), png);
      writeFileSync(join(folder, 'sprites.svg'), svg);
      writeFileSync(join(folder, 'sprites.json'), `${JSON.stringify(table, null, 1)}\n`);
    },
    sheet: async (path) => writeFileSync(path, await sheet(path)),
    keys: (path) => text(path, { kind: 'keys', format: formatOf('keys', path), ...keyOptions, counting }),
    weights: (path) => text(path, { kind: 'weights', format: formatOf('weights', path), counting, easeFrames: ease }),
    curves: (path) => text(path, { kind: 'curves', format: formatOf('curves', path), counting }),
    timeline: (path) => {
      const { baseName, firstNumber, digits } = options;
      text(path, { kind: 'timeline', files: { baseName, firstNumber, digits, pictures: '', sounds: '' } });
    },
    shots: (path) => text(path, { kind: 'shots', counting, cameraOn }),
    bundle: (path) => writeFileSync(path, writeBundle({ ...source.bundle, scenes: [scene] })),
  };
  try {
    for (const { target, path } of asked) await write[target](path);
  } catch (error) {
    if (error instanceof Error && 'code' in error)
      throw new CannotDo(`The files could not be written (${String(error.code)}). Check that the folder is there and may be written to.`);
    throw error;
  }
}
