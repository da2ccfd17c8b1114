/** A head with brows, lids and eyes, each on a chart of its own, for tests. */
import { BUILT_HEAD, starterParts, STARTER_STYLES, type ChartDocument, type ChartHead } from '../index.js';
import { TEST_CHARTS } from './testPatch.js';

export const EYES = { x: 200, y: 162, apart: 50, across: 20, tall: 23, lid: '#f0c08e', brow: '#33202f', hang: 0.2 };
export const PARTS = starterParts('Bramble', STARTER_STYLES['brush']!, EYES);
const chartIdOf = (name: string): string => `chart-${name.toLowerCase()}`;

export const HEAD: ChartHead = {
  ...BUILT_HEAD,
  parts: PARTS.map(({ part }) => ({ ...part, id: part.name.toLowerCase(), chartId: chartIdOf(part.name) })),
};

/** The test charts on a head, and the charts of its parts, by id. */
export const chartsOn = (head: ChartHead): Map<string, ChartDocument> =>
  new Map<string, ChartDocument>([
    ...PARTS.map(({ part, chart }) => [chartIdOf(part.name), chart] as const),
    ...[...TEST_CHARTS].map(([id, chart]) => [id, { ...chart, head: [head] }] as const),
  ]);
