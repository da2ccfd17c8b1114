/**
 * Rules of a phrase's own: a shout keyed crisply in a calm scene, a gurgle keyed by loudness
 * in a spoken one. They lie on the recording, so that they go with it when it is slid or
 * trimmed.
 */
import { sameJson } from '../document/documentKind.js';
import { putsOf, type Patch } from '../document/patch.js';
import type { RuledPhrase } from '../keying/keyingJob.js';
import { checkRules, fullRules, type KeyingRules } from '../keying/rules.js';
import { sampleAtFrame } from '../time/samples.js';
import { clipStart } from './clipPlace.js';
import type { IdSource, Refusal } from '../document/refusal.js';
import { placedPhrases } from './placedSounds.js';
import { sceneSettings, type Clip, type SceneDocument, type Track } from './sceneDocument.js';

const sameRules = (a: KeyingRules, b: KeyingRules): boolean => sameJson(fullRules(a), fullRules(b));

/** Phrases with a span taken out of them, and put in again with other rules; null puts in none. */
function withRules(phrases: readonly RuledPhrase[], from: number, to: number, rules: KeyingRules | null): RuledPhrase[] {
  const around = phrases.flatMap((phrase) =>
    [
      { ...phrase, to: Math.min(phrase.to, from) },
      { ...phrase, from: Math.max(phrase.from, to) },
    ].filter((part) => part.from < part.to),
  );
  const all = (rules ? [...around, { from, to, rules }] : around).sort((a, b) => a.from - b.from);
  const joined: RuledPhrase[] = [];
  for (const phrase of all) {
    const before = joined.at(-1);
    if (before?.to === phrase.from && sameRules(before.rules, phrase.rules)) joined[joined.length - 1] = { ...before, to: phrase.to };
    else joined.push(phrase);
  }
  return joined;
}

/**
 * Gives some frames of a track rules of their own, wherever its character is heard in them;
 * the pencil stays as it is until it is keyed again.
 *
 * @param rules null, or those of the track, for the frames to go by the track again
 */
export function setPhraseRules(
  scene: SceneDocument,
  { track: trackId, from, to, rules }: { track: string; from: number; to: number; rules: KeyingRules | null },
  newId: IdSource,
): Patch | Refusal {
  const track = scene.tracks.find((candidate) => candidate.id === trackId);
  if (!track) return { refusal: 'That track is no longer in the scene.' };
  const [fault] = rules ? checkRules(rules) : [];
  if (fault) return { refusal: fault };
  const { frameRate } = sceneSettings(scene);
  const [first, last] = [sampleAtFrame(frameRate, from), sampleAtFrame(frameRate, to)];
  const heard = scene.clips.flatMap((clip) => {
    const start = clipStart(scene, clip);
    const span = { from: Math.max(first - start, clip.fromSample), to: Math.min(last - start, clip.toSample) };
    return clip.characterId === track.characterId && span.from < span.to ? [{ clip, span }] : [];
  });
  if (heard.length === 0) return { refusal: 'Nobody is heard in these frames. Choose some with a recording under them.' };
  const own = rules && !sameRules(rules, track.rules) ? rules : null;
  const ops = heard.flatMap(({ clip, span }) => {
    const { phrases: before = [], ...bare } = clip;
    const phrases = withRules(before, span.from, span.to, own);
    const after: Clip = phrases.length > 0 ? { ...bare, phrases } : bare;
    return sameJson(before, phrases) ? [] : [putsOf<SceneDocument>()('clips', clip, after)];
  });
  return { id: newId(), reason: 'phrase.rules', ops };
}

/** The rules a phrase of a track has of its own at a frame; undefined where it goes by the track. */
export function maybePhraseRules(scene: SceneDocument, track: Track, frame: number): KeyingRules | undefined {
  const { frameRate } = sceneSettings(scene);
  const [from, to] = [sampleAtFrame(frameRate, frame), sampleAtFrame(frameRate, frame + 1)];
  return placedPhrases(scene, track.characterId).find((phrase) => phrase.from < to && phrase.to > from)?.rules;
}
