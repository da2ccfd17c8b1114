/** What is packed into a zip: the sprites of a chart, and a scene with all it needs. */
import { chartIdsOfScene, chartSettings, mouthLanes, sceneSettings } from '@zest-jaw/core';
import type { ReactElement } from 'react';
import { Mouth } from '../mouth/Mouth.js';
import { useOpenScene, useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { Card } from './Card.js';
import { SaveRow } from './SaveRow.js';
import { useHandOff } from './useHandOff.js';
import { useKeptChoices } from './useKeptChoices.js';

const CELLS = [64, 128, 256, 512, 1024] as const;

export function SpritesCard(): ReactElement {
  const { track, charts } = useSpeaker();
  const [choices, choose] = useKeptChoices('sprites', { cell: 256, powersOfTwo: false });
  const handOff = useHandOff();
  const [chartId, chart] = [...charts].find(([id]) => id === track.chartId) ?? [...charts][0]!;
  const looks = chart.drawings.reduce((sum, { variants }) => sum + 1 + variants.length, 0);
  return (
    <Card
      title="Sprite sheet"
      says={`All ${looks} drawings of ${chartSettings(chart).name} on one picture, cut to their ink and packed, with a table of places and crosses.`}
      counts="Places in pixels from the top left corner; each cross from its sprite’s own corner."
    >
      <div className="mb-4 grid grid-cols-3 gap-4">
        <label className="flex flex-col gap-1 font-semibold">
          Width of a mouth’s square
          <select className="field font-normal" value={choices.cell} onChange={({ target }) => choose({ cell: Number(target.value) })}>
            {CELLS.map((cell) => (
              <option key={cell} value={cell}>{`${cell} pixels`}</option>
            ))}
          </select>
        </label>
        <label className="col-span-2 flex items-center gap-2 self-end pb-2">
          <input type="checkbox" checked={choices.powersOfTwo} onChange={({ target }) => choose({ powersOfTwo: target.checked })} />
          sides that are powers of two
        </label>
      </div>
      <div
        aria-label="What is on it"
        role="region"
        tabIndex={0}
        className="mb-4 flex flex-1 flex-wrap content-start gap-1 overflow-auto rounded-lg border border-rule-soft bg-[repeating-conic-gradient(var(--rule-soft)_0_25%,transparent_0_50%)] bg-[length:14px_14px] p-3"
      >
        {chart.drawings.map((drawing) => (
          <Mouth key={drawing.id} chart={chart} drawing={drawing} className="h-[84px] w-[100px]" />
        ))}
      </div>
      <SaveRow handOff={handOff} label="Save sprites" request={{ kind: 'sprites', chartId, ...choices }} />
    </Card>
  );
}

export function BundleCard(): ReactElement {
  const document = useSceneDocument();
  const { characters } = useOpenScene();
  const { allCharts } = useSpeaker();
  const handOff = useHandOff();
  const { title, lengthFrames } = sceneSettings(document);
  const charts = [...chartIdsOfScene(document)].flatMap((id) => allCharts.get(id) ?? []);
  const holds = [
    ['The scene', `${title}, ${lengthFrames} frames, ${document.exposures.length} mouths, ${document.words.length} words`],
    ['Recordings', document.clips.map(({ fileName }) => fileName).join(', ') || 'none'],
    ['Mouth charts', charts.map((chart) => `${chartSettings(chart).name} (${chart.drawings.length})`).join(', ')],
    [
      'Who speaks',
      mouthLanes(document)
        .map(({ characterId }) => characters.find(({ id }) => id === characterId)?.name ?? 'Somebody')
        .join(', '),
    ],
    ['Beside them', 'how the production says its words, the exposure sheet, and a page that says what is what'],
  ] as const;
  return (
    <Card
      title="Scene bundle"
      says="The scene with all it needs, in one zip: another Zest Jaw opens it beside its own scenes, and a person can read it without one."
      counts="Documents are JSON, recordings WAV at 48 000 Hz; every file under its own hash."
      ofLane={false}
    >
      <dl className="mb-4 grid flex-1 grid-cols-[130px_1fr] content-start gap-x-3 gap-y-2 rounded-lg border border-rule-soft p-4">
        {holds.map(([name, what]) => (
          <div key={name} className="contents">
            <dt className="font-semibold">{name}</dt>
            <dd className="text-ink-soft">{what}</dd>
          </div>
        ))}
      </dl>
      <SaveRow handOff={handOff} label="Save bundle" request={{ kind: 'bundle' }} />
    </Card>
  );
}
