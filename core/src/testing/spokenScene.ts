/** A scene in which a line is spoken, keyed by its plan: given by words with their sounds, each with its milliseconds. */
import {
  applyPatch,
  FEELS,
  isRefusal,
  isVowel,
  keyPencil,
  SCENE_KIND,
  type ChartDocument,
  type Exposure,
  type KeyingRules,
  type SceneDocument,
} from '../index.js';
import { countedIds, emptyScene, TEST_CHARTS } from './testPatch.js';

export interface Spoken {
  readonly rules?: KeyingRules;
  readonly charts?: ReadonlyMap<string, ChartDocument>;
  readonly lengthFrames?: number;
}

/** “Bramble’s parcel, maybe” and a pause; a second phrase: what is in most lines. A dash is a pause. */
export const LINE =
  'bramble=B70 R60 AE140 M80 B60 AH70 L90 parcel=P90 AA150 R60 S100 AH60 L100 -=900 my=M90 AY200 mop=M80 AA160 P100 five=F110 AY190 V80 -=700 we=W90 IY140 see=S130 IY220 -=800';

/** At 24 frames a second. */
export function spokenScene(
  line: string = LINE,
  { rules = FEELS[1]!.rules, charts = TEST_CHARTS, lengthFrames }: Spoken = {},
): SceneDocument {
  const words: SceneDocument['words'][number][] = [];
  const phonemes: SceneDocument['phonemes'][number][] = [];
  let at = 24_000;
  line.split(/ (?=\S+=)/).forEach((part, place) => {
    const [text, sounds] = part.split('=') as [string, string];
    const parts = sounds.split(' ').map((sound) => /^([A-Z]*)(\d+)$/.exec(sound)!);
    if (text === '-') {
      at += Number(parts[0]![2]) * 48;
      return;
    }
    const fromSample = at;
    const id = `w${String(place).padStart(3, '0')}`;
    for (const [, symbol, length] of parts) {
      const toSample = at + Number(length) * 48;
      const stress = isVowel(symbol!) ? ({ stress: 1 } as const) : {};
      const name = `p${String(phonemes.length).padStart(4, '0')}`;
      phonemes.push({ id: name, clip: 'clip', word: id, symbol: symbol!, ...stress, fromSample: at, toSample, confidence: 0.95 });
      at = toSample;
    }
    words.push({ id, clip: 'clip', text, fromSample, toSample: at, confidence: 0.95 });
  });
  const frames = lengthFrames ?? Math.ceil((at / 48_000) * 24);
  const bare = emptyScene(frames);
  const clip: SceneDocument['clips'][number] = {
    ...{ id: 'clip', characterId: bare.tracks[0]!.characterId, audio: 'a'.repeat(64), fileName: 'line.wav', atFrame: 0, lengthSamples: at },
    ...{ fromSample: 0, toSample: at, gainDb: 0, muted: false, soloed: false, readOf: null, script: '', language: 'en' },
  };
  const scene: SceneDocument = { ...bare, clips: [clip], words, phonemes, tracks: bare.tracks.map((track) => ({ ...track, rules })) };
  const keyed = keyPencil(scene, 'mouth1', charts, countedIds('k'));
  if (isRefusal(keyed)) throw new Error(keyed.refusal);
  return applyPatch(SCENE_KIND, scene, keyed.patch);
}

/** The lane as frames, changed, and put back: neighbours that are the same mouth are one exposure. */
export function withFrames(scene: SceneDocument, change: (frames: Exposure[]) => void): SceneDocument {
  const frames: Exposure[] = [];
  for (const exposure of scene.exposures) frames.fill(exposure, frames.length, (frames.length = exposure.to));
  change(frames);
  const exposures: Exposure[] = [];
  frames.forEach((one, frame) => {
    const last = exposures.at(-1);
    if (frame > 0 && frames[frame - 1] === one && last) exposures[exposures.length - 1] = { ...last, to: frame + 1 };
    else exposures.push({ ...one, id: `x${String(exposures.length).padStart(4, '0')}`, from: frame, to: frame + 1 });
  });
  return { ...scene, exposures };
}

/** A mouth put by a hand: another one each time it is made. */
export const mouthOf = (drawing: string): Exposure => ({ id: '', track: 'mouth1', from: 0, to: 1, drawing, inked: true, plays: [] });
