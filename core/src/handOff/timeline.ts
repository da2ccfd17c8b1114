/**
 * The scene as a timeline, in the JSON of OpenTimelineIO (schemas Timeline.1, Stack.1, Track.1, Clip.1, Gap.1, Marker.2,
 * ImageSequenceReference.1, ExternalReference.1, RationalTime.1 and TimeRange.1 of its published serialised-schema
 * documentation): the numbered pictures, every recording where it is heard, and a marker for each phrase and mark.
 */
import { clipStart } from '../scene/clipPlace.js';
import { placedWords, type PlacedWord } from '../scene/placedSounds.js';
import { sceneSettings, type Clip, type SceneDocument } from '../scene/sceneDocument.js';
import { framesPerSecond, SAMPLE_RATE } from '../time/frameRate.js';

export interface TimelineFiles {
  /** Base name and first number of the numbered pictures, and how many digits number them. */
  readonly baseName: string;
  readonly firstNumber: number;
  readonly digits: number;
  /** Where pictures and recordings lie beside the timeline, each ended by a slash; empty for beside it. */
  readonly pictures: string;
  readonly sounds: string;
}

type Json = Readonly<Record<string, unknown>>;

/** A pause of so much parts two phrases, in seconds. */
const PHRASE_PAUSE = 0.4;

const schema = (name: string, fields: Json): Json => ({ OTIO_SCHEMA: name, ...fields });
const time = (value: number, rate: number): Json => schema('RationalTime.1', { rate, value });
const range = (from: number, duration: number, rate: number): Json =>
  schema('TimeRange.1', { start_time: time(from, rate), duration: time(duration, rate) });
const item = (name: string, fields: Json): Json => ({ name, metadata: {}, effects: [], markers: [], enabled: true, ...fields });

/** Words one after another with no long pause between. */
export function phrasesOfWords(words: readonly PlacedWord[]): (readonly PlacedWord[])[] {
  const phrases: PlacedWord[][] = [];
  let end = -Infinity;
  for (const word of words) {
    if (word.from - end > PHRASE_PAUSE * SAMPLE_RATE) phrases.push([]);
    phrases.at(-1)!.push(word);
    end = Math.max(end, word.to);
  }
  return phrases;
}

/** A recording where it is heard, after the silence before it; in samples, as the timeline is exact to. */
function soundTrack(scene: SceneDocument, clip: Clip, files: TimelineFiles): Json {
  const start = Math.round(clipStart(scene, clip)) + clip.fromSample;
  const gap = schema('Gap.1', item('', { source_range: range(0, Math.max(0, start), SAMPLE_RATE) }));
  const heard = schema(
    'Clip.2',
    item(clip.fileName, {
      // What lies before the scene is not heard in it.
      source_range: range(clip.fromSample + Math.max(0, -start), clip.toSample - clip.fromSample - Math.max(0, -start), SAMPLE_RATE),
      enabled: !clip.muted,
      media_references: {
        DEFAULT_MEDIA: schema('ExternalReference.1', {
          name: clip.fileName,
          metadata: {},
          available_range: range(0, clip.lengthSamples, SAMPLE_RATE),
          available_image_bounds: null,
          target_url: files.sounds + encodeURIComponent(clip.fileName),
        }),
      },
      active_media_reference_key: 'DEFAULT_MEDIA',
    }),
  );
  return schema('Track.1', item(clip.fileName, { kind: 'Audio', source_range: null, children: start > 0 ? [gap, heard] : [heard] }));
}

/** @returns JSON of a `.otio` file */
export function timelineOfScene(scene: SceneDocument, files: TimelineFiles): string {
  const { title, frameRate, firstFrame, lengthFrames } = sceneSettings(scene);
  const rate = framesPerSecond(frameRate);
  const framesOf = (samples: number): number => Math.round((samples / SAMPLE_RATE) * rate);
  const marker = (name: string, from: number, duration: number, color: string): Json =>
    schema('Marker.2', { name, metadata: {}, color, comment: '', marked_range: range(from, duration, rate) });
  const markers = [
    ...phrasesOfWords(placedWords(scene)).map((words) => {
      const [from, to] = [framesOf(words[0]!.from), framesOf(Math.max(...words.map((word) => word.to)))];
      return marker(words.map(({ text }) => text).join(' '), from, Math.max(1, to - from), 'GREEN');
    }),
    ...scene.marks.map(({ frame, text }) => marker(text, frame, 1, 'YELLOW')),
  ];
  const pictures = schema(
    'Clip.2',
    item(title, {
      source_range: range(files.firstNumber, lengthFrames, rate),
      markers,
      media_references: {
        DEFAULT_MEDIA: schema('ImageSequenceReference.1', {
          name: files.baseName,
          metadata: {},
          available_range: range(files.firstNumber, lengthFrames, rate),
          available_image_bounds: null,
          target_url_base: files.pictures,
          name_prefix: files.baseName,
          name_suffix: '.png',
          start_frame: files.firstNumber,
          frame_step: 1,
          rate,
          frame_zero_padding: files.digits,
          missing_frame_policy: 'error',
        }),
      },
      active_media_reference_key: 'DEFAULT_MEDIA',
    }),
  );
  const video = schema('Track.1', item('Mouths', { kind: 'Video', source_range: null, children: [pictures] }));
  const sounds = [...scene.clips].map((clip) => soundTrack(scene, clip, files));
  const stack = schema('Stack.1', item('tracks', { source_range: null, children: [video, ...sounds] }));
  const whole = schema('Timeline.1', { name: title, metadata: {}, global_start_time: time(firstFrame, rate), tracks: stack });
  return `${JSON.stringify(whole, null, 2)}\n`;
}
