/**
 * What leaves the page's sound device, recorded by an audio worklet, sample by sample with
 * the device's clock; and what the easel showed when. The two are held against each other.
 */
import type { Page } from '@playwright/test';

const WORKLET = `
class Tape extends AudioWorkletProcessor {
  process([input]) {
    const samples = input[0] ? input[0].slice() : new Float32Array(128);
    this.port.postMessage({ at: currentFrame, samples });
    return true;
  }
}
registerProcessor('tape', Tape);
`;

export interface Tape {
  /** The device's sample of the first one recorded. */
  readonly at: number;
  readonly samples: Float32Array;
}

export interface Shown {
  /** Seconds of the device's clock, the way to the ear taken off. */
  readonly heardAt: number;
  readonly frame: number;
}

/** Records from the first sound on. Call it before the page is opened, in a test that uses `bypassCSP`: the worklet is none of ours. */
export async function recordOutput(page: Page): Promise<void> {
  await page.addInitScript((worklet) => {
    const blocks: { at: number; samples: Float32Array }[] = [];
    const shown: { heardAt: number; frame: number }[] = [];
    const devices: AudioContext[] = [];
    Object.assign(window, { tape: blocks, shown, devices, delayMs: 0 });
    const connect = AudioNode.prototype.connect as (this: AudioNode, to: AudioNode | AudioParam, ...rest: number[]) => AudioNode;
    const tapes = new WeakMap<BaseAudioContext, AudioNode[]>();
    AudioNode.prototype.connect = function (this: AudioNode, to: never, ...rest: never[]) {
      const target = to as unknown as AudioNode;
      if (target instanceof AudioDestinationNode && this.context instanceof AudioContext) {
        const { context } = this;
        if (!devices.includes(context)) {
          devices.push(context);
          void context.audioWorklet.addModule(URL.createObjectURL(new Blob([worklet], { type: 'text/javascript' }))).then(() => {
            const tape = new AudioWorkletNode(context, 'tape', { numberOfOutputs: 0, channelCount: 1, channelCountMode: 'explicit' });
            tape.port.onmessage = ({ data }: MessageEvent<{ at: number; samples: Float32Array }>) => blocks.push(data);
            tapes.set(context, [tape]);
            for (const node of waiting) connect.call(node, tape);
          });
        }
        const [tape] = tapes.get(context) ?? [];
        if (tape) connect.call(this, tape);
        else waiting.push(this);
      }
      return connect.call(this, target, ...(rest as unknown as number[]));
    } as never;
    const waiting: AudioNode[] = [];
    // The device's clock as the page first reads it in the callbacks of a picture: what it shows is decided by that.
    let told: number | undefined;
    const { get } = Object.getOwnPropertyDescriptor(BaseAudioContext.prototype, 'currentTime')!;
    Object.defineProperty(BaseAudioContext.prototype, 'currentTime', {
      configurable: true,
      get() {
        const time = get!.call(this) as number;
        told ??= time;
        return time;
      },
    });
    // After the page's own callbacks of a picture: what they decided is on the page then.
    const after = new MessageChannel();
    after.port1.onmessage = () => {
      const easel = document.querySelector<HTMLElement>('[data-testid=easel]');
      const device = devices.at(-1);
      if (easel && device && told !== undefined) {
        const way = (device.outputLatency || device.baseLatency || 0) + (window as unknown as { delayMs: number }).delayMs / 1000;
        shown.push({ heardAt: told - way, frame: Number(easel.dataset['frame']) });
      }
    };
    const look = (): void => {
      told = undefined;
      after.port2.postMessage(0);
      requestAnimationFrame(look);
    };
    requestAnimationFrame(look);
  }, WORKLET);
}

/** Everything recorded so far, as one stretch. */
export async function tapeOf(page: Page): Promise<Tape> {
  const { at, text } = await page.evaluate(async () => {
    const { tape } = window as unknown as { tape: { at: number; samples: Float32Array }[] };
    const first = tape[0]?.at ?? 0;
    const last = tape.at(-1);
    // What a busy machine's device left out is not known: it must not be taken for silence.
    const whole = new Float32Array(last ? last.at + last.samples.length - first : 0).fill(Number.NaN);
    for (const { at: start, samples } of tape) whole.set(samples, start - first);
    const blob = new Blob([whole]);
    const url = await new Promise<string>((resolve) => {
      const reader = new FileReader();
      reader.onload = () => resolve(reader.result as string);
      reader.readAsDataURL(blob);
    });
    return { at: first, text: url.slice(url.indexOf(',') + 1) };
  });
  const bytes = Buffer.from(text, 'base64');
  return { at, samples: new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength)) };
}

export const shownOn = (page: Page): Promise<Shown[]> => page.evaluate(() => (window as unknown as { shown: Shown[] }).shown);

/** Forgets what was recorded and shown so far. */
export const rewind = (page: Page, delayMs = 0): Promise<void> =>
  page.evaluate((delay) => {
    const all = window as unknown as { tape: unknown[]; shown: unknown[]; delayMs: number };
    all.tape.length = 0;
    all.shown.length = 0;
    all.delayMs = delay;
  }, delayMs);

/** Whether the device of a busy machine left anything out; what is recorded then proves nothing. */
export const isBroken = ({ samples }: Tape): boolean => samples.some((value) => Number.isNaN(value));

/** Does something and records it, until the recording is whole; a few times at most. */
export async function recorded(page: Page, delayMs: number, act: () => Promise<void>): Promise<Tape> {
  for (let turn = 0; ; turn++) {
    await page.waitForTimeout(400);
    await rewind(page, delayMs);
    await act();
    const tape = await tapeOf(page);
    if (!isBroken(tape) || turn === 4) return tape;
  }
}

/** The frequency around a sample, in Hz, from where the wave crosses zero upwards within 16 ms; 0 in silence. */
export function frequencyAt({ at, samples }: Tape, sample: number): number {
  const from = Math.round(sample - at - 384);
  const crossings: number[] = [];
  let loudest = 0;
  for (let index = Math.max(1, from); index < Math.min(samples.length, from + 768); index++) {
    const [before, now] = [samples[index - 1]!, samples[index]!];
    loudest = Math.max(loudest, Math.abs(now));
    if (before < 0 && now >= 0) crossings.push(index - now / (now - before));
  }
  if (loudest < 0.02 || crossings.length < 3) return 0;
  return ((crossings.length - 1) * 48_000) / (crossings.at(-1)! - crossings[0]!);
}

/** Where the wave steps by more than so much from one sample to the next, in seconds of the tape, with what is around. */
export function stepsAbove({ samples }: Tape, limit: number): string[] {
  const found: string[] = [];
  for (let index = 1; index < samples.length; index++)
    if (Math.abs(samples[index]! - samples[index - 1]!) > limit)
      found.push(
        `${(index / 48_000).toFixed(4)} s: ${[...samples.slice(index - 3, index + 3)].map((value) => value.toFixed(2)).join(' ')}`,
      );
  return found;
}

/** The longest silence inside what was recorded, its ends left out, in seconds. */
export function longestHole({ samples }: Tape): number {
  let [longest, since, begun] = [0, -1, false];
  for (let index = 0; index < samples.length; index++) {
    if (Number.isNaN(samples[index]!)) begun = false;
    if (!(Math.abs(samples[index]!) >= 1e-4)) continue;
    if (begun) longest = Math.max(longest, index - since);
    [since, begun] = [index, true];
  }
  return longest / 48_000;
}

const STEP_HZ = 70;
const LOWEST_HZ = 400;

/** A recording in which every frame has a tone of its own, without a jump between two: the frame can be heard. */
export function framesAsTones(frames: number, samplesPerFrame = 2000): Buffer {
  const data = Buffer.alloc(44 + frames * samplesPerFrame * 2);
  data.write('RIFF', 0);
  data.writeUInt32LE(data.length - 8, 4);
  data.write('WAVEfmt ', 8);
  data.writeUInt32LE(16, 16);
  data.writeUInt16LE(1, 20);
  data.writeUInt16LE(1, 22);
  data.writeUInt32LE(48_000, 24);
  data.writeUInt32LE(96_000, 28);
  data.writeUInt16LE(2, 32);
  data.writeUInt16LE(16, 34);
  data.write('data', 36);
  data.writeUInt32LE(data.length - 44, 40);
  let phase = 0;
  for (let index = 0; index < frames * samplesPerFrame; index++) {
    phase += (2 * Math.PI * toneOf(Math.floor(index / samplesPerFrame))) / 48_000;
    data.writeInt16LE(Math.round(12_000 * Math.sin(phase)), 44 + 2 * index);
  }
  return data;
}

/** Forty frames and then from the start again. */
export const toneOf = (frame: number): number => LOWEST_HZ + STEP_HZ * (frame % 40);

/** The frame of a tone, within the forty; undefined where none is heard plainly. */
export function maybeFrameOfTone(hz: number): number | undefined {
  const frame = (hz - LOWEST_HZ) / STEP_HZ;
  return hz > 0 && Math.abs(frame - Math.round(frame)) < 0.3 ? Math.round(frame) : undefined;
}
