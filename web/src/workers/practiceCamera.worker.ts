/**
 * The practice camera at work: a puppet that wears what is asked (now and then another mouth), seen live through a camera
 * that creeps and has noise, in a thread of its own.
 */
import { mouthReallyOn, seenByCamera, USUAL_CONDITIONS, type Raster } from '@zest-jaw/core';
import { answering } from './asking.js';

export type PracticeQuestion =
  | {
      readonly kind: 'open';
      readonly live: OffscreenCanvas;
      /** Faces by mouth, in the order of the tray. */
      readonly faces: readonly (readonly [mouth: string, face: ImageBitmap])[];
      readonly seed: number;
    }
  | { readonly kind: 'wear'; readonly mouth: string }
  | { readonly kind: 'take' };

export interface PracticeTake {
  readonly jpeg: Blob;
  /** The mouth that was on. */
  readonly really: string;
}

/** A picture of the live view every so many milliseconds. */
const LIVE_EVERY = 120;
/** The hand that changes the mouth is in the frame for so long, in milliseconds. */
const HAND_FOR = 420;
const QUALITY = 0.9;

const faces = new Map<string, Raster>();
let live: OffscreenCanvas | undefined;
let seed = 0;
let on: string | undefined;
let worn = 0;
/** Pictures seen so far: the camera creeps from one to the next. */
let seen = 0;
let handUntil = 0;

function rasterOf(face: ImageBitmap): Raster {
  const canvas = new OffscreenCanvas(face.width, face.height);
  const context = canvas.getContext('2d', { willReadFrequently: true })!;
  context.drawImage(face, 0, 0);
  face.close();
  return { width: canvas.width, height: canvas.height, pixels: context.getImageData(0, 0, canvas.width, canvas.height).data };
}

function paint(canvas: OffscreenCanvas, withHand?: boolean): void {
  const face = on === undefined ? undefined : faces.get(on);
  if (!face) return;
  const { width, height, pixels } = seenByCamera(face, USUAL_CONDITIONS, seed, seen, withHand);
  canvas.getContext('2d', { alpha: false })!.putImageData(new ImageData(new Uint8ClampedArray(pixels), width, height), 0, 0);
}

function look(): void {
  if (live) paint(live, performance.now() < handUntil);
  setTimeout(look, LIVE_EVERY);
}

async function take(): Promise<PracticeTake> {
  if (on === undefined) throw new Error('The puppet wears nothing yet. Wait until it is seen, and shoot again.');
  const really = on;
  const { width, height } = faces.get(really)!;
  const canvas = new OffscreenCanvas(width, height);
  // The hand is out by the time a picture is taken, mostly.
  paint(canvas);
  seen += 1;
  return { jpeg: await canvas.convertToBlob({ type: 'image/jpeg', quality: QUALITY }), really };
}

answering<PracticeQuestion>((question) => {
  if (question.kind === 'take') return take();
  if (question.kind === 'wear') {
    on = mouthReallyOn(question.mouth, on, [...faces.keys()], USUAL_CONDITIONS, seed, worn);
    worn += 1;
    handUntil = performance.now() + HAND_FOR;
    return on;
  }
  for (const [mouth, face] of question.faces) faces.set(mouth, rasterOf(face));
  ({ live, seed } = question);
  look();
  return true;
});
