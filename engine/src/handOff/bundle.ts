/**
 * A scene with all it needs in one zip: its document, the charts it is on, who speaks, how the production says its words,
 * and every recording and picture under its content hash; with an index that can be read, so that it is an archive too.
 */
import {
  distinctNames,
  exposureSheetCsv,
  formatFrameRate,
  placedWords,
  phrasesOfWords,
  safeName,
  SAMPLE_RATE,
  sceneSettings,
  upgradeScene,
  type Accent,
  type ChartDocument,
  type Pronunciation,
  type Refusal,
  type SceneDocument,
} from '@zest-jaw/core';
import { createHash } from 'node:crypto';
import { strFromU8, strToU8, unzipSync, zipSync, type Zippable } from 'fflate';

export const BUNDLE_FORMAT = 'zest-jaw bundle';
export const BUNDLE_VERSION = 1;
/** What a bundle may hold when it is unpacked. */
const MOST_BYTES = 1_500_000_000;
const MOST_FILES = 20_000;

export interface BundleMedium {
  /** SHA-256 of its bytes, in hex: what documents call it by. */
  readonly hash: string;
  readonly mediaType: string;
  readonly fileName: string;
}

export interface BundleIndex {
  readonly format: typeof BUNDLE_FORMAT;
  readonly version: number;
  /** ISO 8601, UTC. */
  readonly made: string;
  readonly production: { readonly name: string; readonly pronunciations: readonly Pronunciation[] };
  readonly characters: readonly { readonly id: string; readonly name: string; readonly accent: Accent }[];
  readonly charts: readonly { readonly id: string; readonly characterId: string; readonly name: string; readonly file: string }[];
  readonly scenes: readonly { readonly title: string; readonly file: string }[];
  readonly media: readonly (BundleMedium & { readonly file: string })[];
}

export interface Bundle {
  readonly made: string;
  readonly production: BundleIndex['production'];
  readonly characters: BundleIndex['characters'];
  readonly charts: readonly {
    readonly id: string;
    readonly characterId: string;
    readonly name: string;
    readonly document: ChartDocument;
  }[];
  readonly scenes: readonly SceneDocument[];
  readonly media: readonly (BundleMedium & { readonly bytes: Uint8Array })[];
}

const endingOf = (fileName: string): string => /\.[a-z0-9]{1,5}$/i.exec(fileName)?.[0].toLowerCase() ?? '';
const json = (value: unknown): Uint8Array => strToU8(`${JSON.stringify(value, null, 1)}\n`);

/** What a person reads who has only the zip. */
function readMe({ production, characters, scenes, charts, made }: Bundle): string {
  const clock = (samples: number): string => (samples / SAMPLE_RATE).toFixed(2).padStart(8);
  const said = scenes.flatMap((scene) => {
    const { title, frameRate, firstFrame, lengthFrames } = sceneSettings(scene);
    return [
      `${title}: ${lengthFrames} frames at ${formatFrameRate(frameRate)} a second, the first is ${firstFrame}.`,
      ...phrasesOfWords(placedWords(scene)).map((words) => `  ${clock(words[0]!.from)} s  ${words.map(({ text }) => text).join(' ')}`),
      '',
    ];
  });
  return [
    `${production.name}, packed on ${made.slice(0, 10)}.`,
    '',
    `Who speaks: ${characters.map(({ name }) => name).join(', ')}.`,
    `Mouth charts: ${charts.map(({ name, document }) => `${name} (${document.drawings.length} drawings)`).join(', ')}.`,
    '',
    ...said,
    'bundle.json says what is in here. Scenes and charts are JSON: a scene lists its recordings, words, sounds and',
    'exposures (from a frame on, up to another, a drawing); a chart lists its drawings and which sounds look alike.',
    'The .csv beside a scene is its exposure sheet, a row a frame. Files in media are named by the SHA-256 of their',
    'bytes, which is what scenes and charts call them by. Recordings are WAV, 48 kHz, 16 bits.',
    '',
  ].join('\n');
}

/** @returns the bytes of a zip */
export function writeBundle(bundle: Bundle): Uint8Array {
  const files: Zippable = {};
  const nameOf = distinctNames();
  const names = new Map(bundle.characters.map(({ id, name }) => [id, name]));
  const documents = new Map(bundle.charts.map(({ id, document }) => [id, document]));
  const charts = bundle.charts.map(({ id, characterId, name, document }) => {
    const file = nameOf(`charts/${safeName(name)}`, '.json');
    files[file] = json(document);
    return { id, characterId, name, file };
  });
  const scenes = bundle.scenes.map((scene) => {
    const { title } = sceneSettings(scene);
    const file = nameOf(`scenes/${safeName(title)}`, '.json');
    files[file] = json(scene);
    files[file.replace(/\.json$/, '.csv')] = strToU8(
      exposureSheetCsv(
        scene,
        scene.tracks.map(({ id, characterId }) => ({ trackId: id, name: names.get(characterId) ?? 'Somebody', charts: documents })),
      ),
    );
    return { title, file };
  });
  const media = bundle.media.map(({ bytes, ...medium }) => {
    const file = `media/${medium.hash}${endingOf(medium.fileName)}`;
    // Pictures and compressed sound are as small as they get.
    files[file] = [bytes, { level: medium.mediaType === 'audio/wav' ? 6 : 0 }];
    return { ...medium, file };
  });
  const index: BundleIndex = {
    format: BUNDLE_FORMAT,
    version: BUNDLE_VERSION,
    made: bundle.made,
    production: bundle.production,
    characters: bundle.characters,
    charts,
    scenes,
    media,
  };
  return zipSync({ 'README.txt': strToU8(readMe(bundle)), 'bundle.json': json(index), ...files });
}

const NO_BUNDLE = 'This is not a bundle: it is no zip with a bundle.json in it. Make one in Hand off, or take the file as it was made.';

/** Reads a bundle. What is in its documents is checked by whoever keeps them. */
export function readBundle(zip: Uint8Array): Bundle | Refusal {
  let [count, bytes] = [0, 0];
  let files: Record<string, Uint8Array>;
  try {
    files = unzipSync(zip, {
      filter: ({ name, originalSize }) => {
        count += 1;
        bytes += originalSize;
        return count <= MOST_FILES && bytes <= MOST_BYTES && /^(bundle\.json|(charts|scenes)\/[^/]+\.json|media\/[^/]+)$/.test(name);
      },
    });
  } catch {
    return { refusal: NO_BUNDLE };
  }
  if (count > MOST_FILES || bytes > MOST_BYTES)
    return {
      refusal: `The bundle holds ${count} files of ${Math.round(bytes / 1e6)} MB. It may hold ${MOST_FILES} of ${MOST_BYTES / 1e6} MB in all.`,
    };
  const read = (name: unknown): unknown => {
    const file = typeof name === 'string' ? files[name] : undefined;
    if (!file) throw new Error(`${String(name)} is not in the bundle. It was not packed to its end, or something was taken out.`);
    try {
      return JSON.parse(strFromU8(file)) as unknown;
    } catch {
      throw new Error(`${String(name)} is not JSON. Take the bundle as it was made.`);
    }
  };
  if (!files['bundle.json']) return { refusal: NO_BUNDLE };
  try {
    const index = read('bundle.json') as Partial<BundleIndex>;
    if (index.format !== BUNDLE_FORMAT) return { refusal: NO_BUNDLE };
    if (index.version !== BUNDLE_VERSION)
      return {
        refusal: `The bundle is of version ${String(index.version)}, and version ${BUNDLE_VERSION} can be read. Use a newer Zest Jaw.`,
      };
    const { production, characters, charts, scenes, media } = index as BundleIndex;
    const lists: unknown[] = [characters, charts, scenes, media, production?.pronunciations];
    if (!lists.every(Array.isArray) || typeof production.name !== 'string')
      return { refusal: 'bundle.json lacks some of its lists. Take the bundle as it was made.' };
    return {
      made: String(index.made),
      production,
      characters,
      charts: charts.map(({ id, characterId, name, file }) => ({ id, characterId, name, document: read(file) as ChartDocument })),
      scenes: scenes.map(({ file }) => upgradeScene(read(file) as SceneDocument)),
      media: media.map(({ hash, mediaType, fileName, file }) => {
        const own = files[file];
        if (!own) throw new Error(`${file} is not in the bundle. It was not packed to its end, or something was taken out.`);
        if (createHash('sha256').update(own).digest('hex') !== hash)
          throw new Error(`${fileName} has been changed since it was packed. Take the bundle as it was made.`);
        return { hash, mediaType, fileName, bytes: own };
      }),
    };
  } catch (error) {
    return { refusal: error instanceof Error ? error.message : NO_BUNDLE };
  }
}
