/**
 * Sound groups: the phonemes that look alike on the lips (visemes). The thirteen default
 * groups are named for how the mouth is made. A group that `must` be seen is kept by the
 * keying whatever else gives way: pressed lips and the bitten lip are what an audience
 * misses first.
 */

export interface SoundGroup {
  readonly id: string;
  readonly name: string;
  /** ARPAbet symbols; Rest has none, it plays silence. */
  readonly phonemes: readonly string[];
  /** What the viewer must see. */
  readonly look: string;
  readonly must: boolean;
  readonly colour: string;
}

const group = (name: string, phonemes: string, look: string, colour: string, must = false): SoundGroup => ({
  id: name.toLowerCase(),
  name,
  phonemes: phonemes.split(' ').filter(Boolean),
  look,
  must,
  colour,
});

/** The group that plays silence. */
export const REST = 'rest';

/** In the order of the tray. */
export const DEFAULT_SOUND_GROUPS: readonly SoundGroup[] = [
  group('Rest', '', 'relaxed, closed', '#A79E8B'),
  group('Press', 'M B P', 'lips pressed together', '#C8435A', true),
  group('Bite', 'F V', 'lower lip under the upper teeth', '#DE7356', true),
  group('Tip', 'TH DH', 'tongue tip between the teeth', '#8A6BA8'),
  group('Lift', 'L', 'open, tongue tip raised', '#6585C2'),
  group('Teeth', 'S Z T D N', 'teeth nearly together, lips apart', '#3C83A8'),
  group('Push', 'SH ZH CH JH', 'lips pushed forward, teeth showing', '#3E9A92'),
  group('Back', 'K G NG HH', 'half open, nothing special at the front', '#8A9550'),
  group('Spread', 'IY IH EY Y', 'corners out, small opening', '#6FA34F'),
  group('Mid', 'EH AH AE', 'relaxed, medium opening', '#C79A1B'),
  group('Drop', 'AA AY AW', 'jaw fully down', '#DD8420'),
  group('Ring', 'AO OW OY', 'rounded, medium opening', '#AD6427'),
  group('Pucker', 'UW UH W R ER', 'rounded, small opening', '#94558A'),
];

const finer: Readonly<Record<string, readonly SoundGroup[]>> = {
  teeth: [group('Hiss', 'S Z', 'teeth shut, lips apart', '#3C83A8'), group('Tap', 'T D N', 'teeth apart, tongue behind them', '#5B9FBF')],
  mid: [group('Mid', 'EH AE', 'relaxed, medium opening', '#C79A1B'), group('Loose', 'AH', 'hardly open, nothing tense', '#B5A05A')],
  pucker: [group('Pucker', 'UW UH W', 'rounded, small opening', '#94558A'), group('Curl', 'R ER', 'rounded, tongue drawn back', '#B07FA8')],
};

/** The thirteen with three of them parted in two, for a chart that can show the difference. */
export const SIXTEEN_SOUND_GROUPS: readonly SoundGroup[] = DEFAULT_SOUND_GROUPS.flatMap((whole) => finer[whole.id] ?? [whole]);

/** The group that holds a phoneme; undefined when none does. */
export function maybeGroupOfPhoneme(groups: readonly SoundGroup[], symbol: string): SoundGroup | undefined {
  return groups.find((candidate) => candidate.phonemes.includes(symbol));
}
