/** Reads a clip and keys its track: the job behind “Reading the track”. */
import { Injectable, OnModuleInit } from '@nestjs/common';
import {
  fullRules,
  isRefusal,
  keyPencil,
  listensToLoudness,
  partOfScript,
  partsBesideInk,
  readingInPart,
  readingOfClip,
  withPartRead,
  type ClipPart,
  type HeardFrames,
  PLAIN_ACCENT,
  SAMPLE_RATE,
  maybeSounds,
  partOfWave,
  readingOfMarks,
  sameJson,
  scriptWords,
  takeReading,
  wordsOfMarks,
  type Accent,
  type ChartDocument,
  type Clip,
  type Patch,
  type Pronunciation,
  type Reading,
  type Refusal,
  type SceneDocument,
  type StressedSymbol,
  type TimedLine,
  type WordWay,
} from '@zest-jaw/core';
import { EntityManager } from '@mikro-orm/knex';
import { randomUUID } from 'node:crypto';
import { AssetStore } from '../assets/asset.store.js';
import { cannotUse } from '../guard/problem.js';
import { JobFailed, JobRun, JobService } from '../jobs/job.service.js';
import { Character } from '../storage/entities.js';
import { WorkerPool } from '../workers/workerPool.js';
import { SceneStore } from './scene.store.js';

export const READING_JOB = 'reading';

/** Heard on both sides of a word to tell how high the voice is, in samples: a second and a half. */
const HEARD_AROUND = 72_000;

interface AskedWays extends ClipPart {
  readonly clipId: string;
  readonly text: string;
  readonly said?: string;
}

const nothingRead = ({ lengthSamples }: { readonly lengthSamples: number }): Reading => ({
  sampleRate: SAMPLE_RATE,
  durationSamples: lengthSamples,
  words: [],
  phonemes: [],
  warnings: [],
});

@Injectable()
export class ReadingService implements OnModuleInit {
  constructor(
    private readonly jobs: JobService,
    private readonly workers: WorkerPool,
    private readonly em: EntityManager,
    private readonly scenes: SceneStore,
    private readonly assets: AssetStore,
  ) {}

  onModuleInit(): void {
    this.jobs.register(READING_JOB, (run) => this.read(run));
  }

  private async read({ job, signal, report }: JobRun): Promise<string[]> {
    const clipId = String(job.request['clipId']);
    const scene = await this.scenes.load(job.scene!.id);
    const clip = scene.document.clips.find((candidate) => candidate.id === clipId);
    if (!clip) throw new JobFailed('The recording is no longer in the scene.');
    const { bytes } = await this.assets.load(clip.audio);
    const speech = await this.speechOf(clip);
    const { lines, reading: given } = job.request as { lines?: readonly TimedLine[]; reading?: Reading };
    const hasWords = (text: string): boolean => scriptWords(text, clip.language).length > 0;
    const maybeRead = ({ fromSample, toSample }: ClipPart, text: string, tell: JobRun['report']): Promise<Reading | Refusal> => {
      const script = hasWords(text) ? text : undefined;
      const task = { wave: Uint8Array.from(bytes), lines, script, language: clip.language, fromSample, toSample, ...speech };
      return this.workers.run<Reading | Refusal>('read', task, signal, tell);
    };
    const orFailed = (read: Reading | Refusal): Reading => {
      if (isRefusal(read)) throw new JobFailed(read.refusal);
      return read;
    };
    // What a hand has set is not read again.
    const wanted = job.request['parts'] as readonly ClipPart[] | undefined;
    const parts = lines ? undefined : partsBesideInk(scene.document, clip, wanted);
    let reading: Reading;
    if (given) reading = given;
    else if (!parts) reading = orFailed(await maybeRead(clip, clip.script, report));
    else {
      reading = readingOfClip(scene.document, clip);
      for (const [index, wanted] of parts.entries()) {
        const { part, script } = partOfScript(reading, clip, wanted);
        const anew = await maybeRead(part, script, (done, doing) => report((index + done) / parts.length, doing));
        // Beside what was set there may be a part in which nobody says anything.
        const isQuiet = isRefusal(anew) && parts.length > 1 && !hasWords(script);
        reading = withPartRead(reading, part, isQuiet ? nothingRead(clip) : orFailed(anew));
      }
    }
    signal.throwIfAborted();
    // What there is of it may have been mended since: it is given up by whoever sees what would change.
    // A better take's own reading is no choice: what there is was read of another.
    const isRead = clip.readOf === clip.audio && scene.document.phonemes.some(({ clip: of }) => of === clipId);
    if (job.request['offer'] === true && isRead) {
      Object.assign(job, { offers: true, reading });
      return [...reading.warnings];
    }
    report(0.97, 'Keying the mouths');
    await this.takeAndKey(scene.id, clipId, reading);
    return [...reading.warnings];
  }

  /** The ways a word may be said where it is, the one that fits best first. */
  async ways(sceneId: string, { clipId, fromSample, toSample, text, said }: AskedWays): Promise<readonly WordWay[]> {
    const { document } = await this.scenes.load(sceneId);
    const clip = document.clips.find((candidate) => candidate.id === clipId);
    if (!clip) throw cannotUse('That recording is no longer in the scene. Reload it and try again.');
    if (fromSample >= toSample || toSample > clip.lengthSamples)
      throw cannotUse(
        `The word lies from ${fromSample} to ${toSample}. It must begin before it ends, within ${clip.lengthSamples} samples.`,
      );
    const sounds = said === undefined ? undefined : maybeSounds(said);
    if (said !== undefined && !sounds)
      throw cannotUse(`“${said}” cannot be read as sounds. Write them in IPA between slashes, in ARPAbet, or as they are spelled.`);
    const { bytes } = await this.assets.load(clip.audio);
    // Only what is around the word leaves for the worker.
    const from = Math.max(0, fromSample - HEARD_AROUND);
    const samples = partOfWave(bytes, { from, to: Math.min(clip.lengthSamples, toSample + HEARD_AROUND) });
    const span = { from: fromSample - from, to: toSample - from };
    const task = { samples, asked: { text, sounds, span, spelling: clip.language }, ...(await this.speechOf(clip)) };
    const ways = await this.workers.run<readonly WordWay[] | Refusal>('read', task, new AbortController().signal, undefined, 'ways');
    if (isRefusal(ways)) throw cannotUse(ways.refusal);
    const later = (sample: number): number => sample + from;
    return ways.map((way) => ({
      ...way,
      sounds: way.sounds.map((sound) => ({ ...sound, fromSample: later(sound.fromSample), toSample: later(sound.toSample) })),
    }));
  }

  /** How the speaker of a clip says words. */
  private async speechOf({ characterId }: Clip): Promise<{ pronunciations: readonly Pronunciation[]; accent: Accent }> {
    const speaker = await this.em.findOne(Character, { id: characterId }, { populate: ['production'] });
    return { pronunciations: speaker?.production.pronunciations ?? [], accent: speaker?.accent ?? PLAIN_ACCENT };
  }

  /** Makes the reading of a clip, or of a part of it, from its ear marks; answers with what to know about it. */
  async readMarks(sceneId: string, clipId: string, part?: ClipPart): Promise<readonly string[]> {
    const { document } = await this.scenes.load(sceneId);
    const clip = document.clips.find((candidate) => candidate.id === clipId);
    if (!clip) throw cannotUse('That recording is no longer in the scene. Reload it and try again.');
    const words = wordsOfMarks(document, clip.characterId);
    const found = await this.workers.run<[string, StressedSymbol[]][]>('pronounce', { words }, new AbortController().signal);
    const reading = readingOfMarks(document, clip, new Map(found));
    if (isRefusal(reading)) throw cannotUse(reading.refusal);
    const whole = part ? withPartRead(readingOfClip(document, clip), part, readingInPart(reading, part)) : reading;
    await this.takeAndKey(sceneId, clipId, whole);
    return reading.warnings;
  }

  /** The reading as one revision, the pencil of every track of its speaker as the next: one step of undo together. */
  private async takeAndKey(sceneId: string, clipId: string, reading: Reading): Promise<void> {
    const step = randomUUID();
    const taken = await this.scenes.applyWithCharts(sceneId, (document) => ({
      ...patchOf(takeReading(document, clipId, reading, randomUUID)),
      step,
    }));
    const { clips, tracks } = taken.document;
    const speaker = clips.find((clip) => clip.id === clipId)?.characterId;
    const charts = await this.scenes.chartsOf(taken.document);
    for (const track of tracks.filter(({ characterId }) => characterId === speaker)) {
      const heard = listensToLoudness(taken.document, track, charts) ? await this.hear(taken.document, track.characterId) : undefined;
      await this.scenes.applyWithCharts(sceneId, (document, now) => {
        // Recordings slid or trimmed meanwhile are no longer heard so.
        const isSame = sameJson(document.clips, clips) && sameJson(document.settings, taken.document.settings);
        return { ...pencilPatch(document, now, track.id, isSame ? heard : undefined), step };
      });
    }
  }

  /** What the mouths of a speaker hear in a scene. */
  private async hear(scene: SceneDocument, characterId: string): Promise<HeardFrames | undefined> {
    const own = scene.clips.filter((clip) => clip.characterId === characterId);
    const waves = new Map<string, Uint8Array>();
    for (const { audio } of own) waves.set(audio, Uint8Array.from((await this.assets.load(audio)).bytes));
    return this.workers.run<HeardFrames | undefined>('hear', { scene, characterId, waves }, new AbortController().signal);
  }
}

function patchOf(result: Patch | Refusal): Patch {
  if (isRefusal(result)) throw new JobFailed(result.refusal);
  return result;
}

function pencilPatch(
  document: SceneDocument,
  charts: ReadonlyMap<string, ChartDocument>,
  trackId: string,
  heard: HeardFrames | undefined,
): Patch {
  const keyed = keyPencil(document, trackId, charts, randomUUID, { heard });
  if (!isRefusal(keyed)) return keyed.patch;
  // A mouth keyed by loudness that cannot be heard now stays as it is until it is keyed again.
  const isLoud = document.tracks.some(({ id, rules }) => id === trackId && fullRules(rules).source === 'loudness');
  return isLoud && !heard ? { id: randomUUID(), reason: 'pencil.key', ops: [] } : patchOf(keyed);
}
