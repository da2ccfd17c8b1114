/** Sound groups of the chart that have no drawing, and two that share one where it shows. */
import type { ChartDocument } from '../../chart/chart.js';
import { maybeGroupOfPhoneme, REST } from '../../chart/soundGroups.js';
import { articulationOfGroup } from '../../keying/chartLook.js';
import { ipaOf } from '../../phonetics/ipa.js';
import { lookDistance } from '../../phonetics/articulation.js';
import type { CheckedLane } from '../checkedLane.js';
import type { Kind } from '../kind.js';
import type { Found } from '../note.js';
import { SAMPLE_RATE } from '../../time/frameRate.js';

const chartsOf = (lane: CheckedLane): ChartDocument[] => [
  ...new Set(lane.stretches.flatMap(({ chartId }) => lane.charts.get(chartId) ?? [])),
];

/** How often the sounds of each group are heard, and where first. */
function heardOf(lane: CheckedLane, chart: ChartDocument): Map<string, { count: number; first: number; symbol: string }> {
  const heard = new Map<string, { count: number; first: number; symbol: string }>();
  lane.sounds.forEach(({ symbol }, index) => {
    const group = maybeGroupOfPhoneme(chart.groups, symbol)?.id;
    if (group === undefined) return;
    const before = heard.get(group);
    if (before) before.count += 1;
    else heard.set(group, { count: 1, first: index, symbol });
  });
  return heard;
}

const frameOf = (lane: CheckedLane, sound: number): number =>
  Math.min(lane.lengthFrames - 1, Math.max(0, Math.floor((lane.sounds[sound]!.from / SAMPLE_RATE) * lane.fps)));

export const groupEmpty: Kind = {
  id: 'group-empty',
  name: 'A group without a drawing',
  about: 'Sounds that are heard here and that no drawing of the chart is made for: the nearest one stands in.',
  find: (lane) =>
    chartsOf(lane).flatMap((chart) => {
      const heard = heardOf(lane, chart);
      return chart.groups.flatMap(({ id, name, must }): Found[] => {
        const times = heard.get(id);
        if (!times || id === REST || chart.drawings.some(({ groups }) => groups.includes(id))) return [];
        const from = frameOf(lane, times.first);
        return [
          {
            from,
            to: from + 1,
            why: `“${name}” (/${ipaOf(times.symbol)}/ and what looks like it) is heard ${times.count} ${times.count === 1 ? 'time' : 'times'}, and the chart has no drawing for it.`,
            sure: 1,
            weight: must ? 3 : 2,
            of: id,
            mends: [],
          },
        ];
      });
    }),
};

/** Two groups that look so different are seen to share a drawing. */
const SHOWS_ABOVE = 0.55;

export const groupsAlike: Kind = {
  id: 'groups-alike',
  name: 'One drawing for two groups',
  about: 'Sounds that look quite different, played by one drawing one after the other: the mouth does not move between them.',
  find: (lane) =>
    chartsOf(lane).flatMap((chart) => {
      const pairs = new Map<string, { a: string; b: string; drawing: string; count: number; first: number }>();
      for (let index = 1; index < lane.sounds.length; index++) {
        const [one, other] = [lane.sounds[index - 1]!, lane.sounds[index]!];
        if (one.word === null || one.word !== other.word) continue;
        const [a, b] = [maybeGroupOfPhoneme(chart.groups, one.symbol), maybeGroupOfPhoneme(chart.groups, other.symbol)];
        if (!a || !b || a === b) continue;
        const shared = chart.drawings.find(({ groups }) => groups.includes(a.id) && groups.includes(b.id));
        const apart = chart.drawings.some(({ groups }) => groups.includes(a.id) !== groups.includes(b.id));
        if (!shared || apart || lookDistance(articulationOfGroup(a), articulationOfGroup(b)) < SHOWS_ABOVE) continue;
        const key = [a.id, b.id].sort().join(' ');
        const before = pairs.get(key);
        if (before) before.count += 1;
        else pairs.set(key, { a: a.name, b: b.name, drawing: shared.label, count: 1, first: index });
      }
      return [...pairs].map(([key, { a, b, drawing, count, first }]): Found => {
        const from = frameOf(lane, first);
        return {
          from,
          to: from + 1,
          why: `“${a}” and “${b}” are both played by “${drawing}”, and they follow each other inside a word ${count} ${count === 1 ? 'time' : 'times'}.`,
          sure: 0.8,
          weight: 2,
          of: key,
          mends: [],
        };
      });
    }),
};
