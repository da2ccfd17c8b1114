/**
 * An acoustic model of phonetically tied mixtures, as the packages of open recognisers carry them: each sound has a
 * codebook of Gaussian densities for each of three streams of features, and each of the thousands of senones (a state of
 * a triphone, shared by those that sound alike) weighs the densities of its sound's codebook. Read from the model's own
 * binary files, whose layout stands in their headers.
 */

/** Values of a stream: the cepstra, their first and their second differences. */
export const STREAM_LENGTH = 13;
export const STREAMS = 3;
/** States of a sound's hidden Markov model, each after the other. */
export const STATES = 3;

/** Where a sound stands in its word. The order is that of the model's file. */
export const POSITIONS = ['internal', 'begin', 'end', 'single'] as const;
export type Position = (typeof POSITIONS)[number];

/** The bytes of a model's files. */
export interface ModelFiles {
  readonly mdef: Uint8Array;
  readonly means: Uint8Array;
  readonly variances: Uint8Array;
  readonly sendump: Uint8Array;
  readonly transitions: Uint8Array;
}

export interface AcousticModel {
  /** The sounds without context, by their number. */
  readonly sounds: readonly string[];
  readonly silence: number;
  /** The states of a sound beside its neighbours, sounds by their numbers: `STATES` senones. */
  senonesOf(sound: number, before: number, after: number, position: Position): Uint16Array;
  /** The states of a sound whatever its neighbours are. */
  plainSenonesOf(sound: number): Uint16Array;
  /** Natural logarithms of staying in each of a sound's states, then of leaving it. Shape: `2 · STATES`. */
  transitionsOf(sound: number): Float64Array;
  readonly codebookOfSenone: Uint8Array;
  readonly senones: number;
  readonly densities: number;
  /** The mean and 1 / (2σ²) of each value. Shape: codebooks × `STREAMS` × densities × `STREAM_LENGTH` × 2. */
  readonly parameters: Float64Array;
  /** ln of each density at its mean. Shape: codebooks × `STREAMS` × densities. */
  readonly peaks: Float64Array;
  /** Steps of a mixture's weight, 0 to 255 below 1. Shape: `STREAMS` × densities × senones. */
  readonly weights: Uint8Array;
  /** A weight by its step. */
  readonly weightOfStep: Float64Array;
}

/** Weights are kept as powers of 1.0001, shifted right by ten bits. */
export const NATS_A_STEP = 1024 * Math.log(1.0001);
/** Least variance and least probability of a transition that is there at all: the defaults that such models are trained with. */
const LEAST_VARIANCE = 1e-4;
const LEAST_TRANSITION = 1e-4;

class Reader {
  at = 0;
  private readonly view: DataView;
  constructor(private readonly bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  }
  int(): number {
    this.at += 4;
    return this.view.getInt32(this.at - 4, true);
  }
  text(length: number): string {
    this.at += length;
    return String.fromCharCode(...this.bytes.subarray(this.at - length, this.at));
  }
  textToNull(): string {
    return this.text(this.bytes.indexOf(0, this.at) + 1 - this.at).slice(0, -1);
  }
  /** Bytes of their own, so that they can be looked at as numbers wherever they began. */
  take(length: number): ArrayBuffer {
    this.at += length;
    return new Uint8Array(this.bytes.subarray(this.at - length, this.at)).buffer;
  }
}

function damaged(what: string): Error {
  return new Error(`The acoustic model’s ${what} cannot be read: install the application’s packages again.`);
}

/** The floats of a file of parameters, after its header and the counts that say its shape. */
function parametersOf(file: Uint8Array, counts: number, what: string): { shape: number[]; values: Float32Array } {
  const end = 'endhdr\n';
  const header = String.fromCharCode(...file.subarray(0, 200));
  const begin = header.indexOf(end);
  if (!header.startsWith('s3\n') || begin < 0) throw damaged(what);
  const reader = new Reader(file);
  reader.at = begin + end.length;
  if (reader.int() !== 0x11223344) throw damaged(what);
  const shape = Array.from({ length: counts }, () => reader.int());
  const count = reader.int();
  return { shape, values: new Float32Array(reader.take(count * 4)) };
}

interface Definitions {
  readonly sounds: string[];
  readonly silence: number;
  readonly senones: number;
  /** Shape: phones × 3 × 4 bytes. */
  readonly phones: Int32Array;
  readonly attributes: Uint8Array;
  readonly sequences: Uint16Array;
  readonly tree: Int32Array;
}

function definitionsOf(file: Uint8Array): Definitions {
  const reader = new Reader(file);
  if (reader.text(4) !== 'BMDF') throw damaged('definitions');
  reader.int();
  reader.text(reader.int());
  const [soundCount, phoneCount, states, , senones, , sequenceCount, , treeCount, silence] = Array.from({ length: 10 }, () => reader.int());
  if (states !== STATES) throw damaged('definitions');
  const sounds = Array.from({ length: soundCount! }, () => reader.textToNull());
  reader.at = (reader.at + 3) & ~3;
  const tree = new Int32Array(reader.take(treeCount! * 8));
  const phones = reader.take(phoneCount! * 12);
  reader.int();
  const sequences = new Uint16Array(reader.take(sequenceCount! * STATES * 2));
  return {
    sounds,
    silence: silence!,
    senones: senones!,
    phones: new Int32Array(phones),
    attributes: new Uint8Array(phones),
    sequences,
    tree,
  };
}

/** The phone at the end of a path through the tree of contexts; -1 where the model has none. */
function phoneInTree(tree: Int32Array, path: readonly number[]): number {
  let from = 0;
  let count: number = POSITIONS.length;
  for (const context of path) {
    let found = -1;
    for (let node = from; node < from + count; node++)
      if ((tree[2 * node]! & 0xffff) === context) {
        found = node;
        break;
      }
    if (found < 0) return -1;
    const below = tree[2 * found]! >> 16;
    const target = tree[2 * found + 1]!;
    if (below === 0) return target;
    [from, count] = [target, below];
  }
  return -1;
}

/** Mixture weights of all senones, after a header of texts that an empty one ends. */
function weightsOf(file: Uint8Array, senones: number): { densities: number; weights: Uint8Array } {
  const reader = new Reader(file);
  for (let length = reader.int(); length > 0; length = reader.int()) reader.text(length);
  const [densities, columns] = [reader.int(), reader.int()];
  if (columns !== senones) throw damaged('mixture weights');
  return { densities, weights: new Uint8Array(reader.take(STREAMS * densities * senones)) };
}

/** Each row normalised, with no transition that is there less likely than the least; as stays and leaves. */
function transitionsIn(file: Uint8Array): Float64Array[] {
  const { shape, values } = parametersOf(file, 3, 'transitions');
  const [sounds, rows, columns] = shape as [number, number, number];
  return Array.from({ length: sounds }, (_, sound) => {
    const logs = new Float64Array(2 * STATES);
    for (let state = 0; state < STATES; state++) {
      const at = (sound * rows + state) * columns;
      const [stay, leave] = [values[at + state]!, values[at + state + 1]!];
      const floored = [stay, leave].map((count) => Math.max(count / (stay + leave), LEAST_TRANSITION));
      const sum = floored[0]! + floored[1]!;
      logs[state] = Math.log(floored[0]! / sum);
      logs[STATES + state] = Math.log(floored[1]! / sum);
    }
    return logs;
  });
}

/** Reads a model; throws with a sentence where its files are not what they should be. */
export function readAcousticModel(files: ModelFiles): AcousticModel {
  const { sounds, silence, senones, phones, attributes, sequences, tree } = definitionsOf(files.mdef);
  const { shape, values: means } = parametersOf(files.means, 6, 'means');
  const { values: variances } = parametersOf(files.variances, 6, 'variances');
  const { densities, weights } = weightsOf(files.sendump, senones);
  if (shape[0] !== sounds.length || shape[1] !== STREAMS || shape[2] !== densities || shape[3] !== STREAM_LENGTH) throw damaged('means');
  if (variances.length !== means.length) throw damaged('variances');
  const transitions = transitionsIn(files.transitions);

  const parameters = new Float64Array(means.length * 2);
  const peaks = new Float64Array(means.length / STREAM_LENGTH);
  for (let density = 0; density < peaks.length; density++) {
    let peak = 0;
    for (let value = density * STREAM_LENGTH; value < (density + 1) * STREAM_LENGTH; value++) {
      const variance = Math.max(LEAST_VARIANCE, variances[value]!);
      peak -= Math.log(2 * Math.PI * variance) / 2;
      parameters[2 * value] = means[value]!;
      parameters[2 * value + 1] = 1 / (2 * variance);
    }
    peaks[density] = peak;
  }

  const codebookOfSenone = new Uint8Array(senones);
  const phoneCount = phones.length / 3;
  for (let phone = 0; phone < phoneCount; phone++) {
    const sound = phone < sounds.length ? phone : attributes[phone * 12 + 9]!;
    const sequence = phones[phone * 3]!;
    for (let state = 0; state < STATES; state++) codebookOfSenone[sequences[sequence * STATES + state]!] = sound;
  }

  const senonesOfPhone = (phone: number): Uint16Array => {
    const sequence = phones[phone * 3]!;
    return sequences.subarray(sequence * STATES, (sequence + 1) * STATES);
  };
  const isFiller = (sound: number): boolean => attributes[sound * 12 + 8] !== 0;
  const nearest = (sound: number, before: number, after: number, position: Position): number => {
    const [left, right] = [isFiller(before) ? silence : before, isFiller(after) ? silence : after];
    const places = [position, ...POSITIONS.filter((other) => other !== position)].map((name) => POSITIONS.indexOf(name));
    for (const [l, r] of [
      [left, right],
      [silence, right],
      [left, silence],
      [silence, silence],
    ] as const)
      for (const place of places) {
        const phone = phoneInTree(tree, [place, sound, l, r]);
        if (phone >= 0) return phone;
      }
    return sound;
  };
  return {
    sounds,
    silence,
    senonesOf: (sound, before, after, position) => senonesOfPhone(isFiller(sound) ? sound : nearest(sound, before, after, position)),
    plainSenonesOf: senonesOfPhone,
    transitionsOf: (sound) => transitions[sound]!,
    codebookOfSenone,
    senones,
    densities,
    parameters,
    peaks,
    weights,
    weightOfStep: Float64Array.from({ length: 256 }, (_, step) => Math.exp(-step * NATS_A_STEP)),
  };
}
