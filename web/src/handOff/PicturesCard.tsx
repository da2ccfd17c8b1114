/** Numbered pictures in a zip: one a frame, only where they change, or each drawing once. */
import {
  checkPictureOptions,
  looksOfFrames,
  maybeDrawing,
  PICTURE_LIMITS,
  pictureName,
  plannedPictures,
  sceneSettings,
  type PictureFormat,
  type WhichPictures,
} from '@zest-jaw/core';
import { useMemo, useState, type ReactElement } from 'react';
import { Easel } from '../mouth/Easel.js';
import { Mouth } from '../mouth/Mouth.js';
import { useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { Card } from './Card.js';
import { SaveRow } from './SaveRow.js';
import { useHandOff } from './useHandOff.js';
import { useKeptChoices } from './useKeptChoices.js';

const SIZES = ['1920x1080', '1280x720', '1080x1080', '512x512'] as const;
const WHICH: readonly (readonly [WhichPictures, string])[] = [
  ['every', 'one for every frame'],
  ['changes', 'only where it changes, with a list of holds'],
  ['chart', 'each drawing of the chart once'],
];
const DIGITS = Array.from(
  { length: PICTURE_LIMITS.mostDigits - PICTURE_LIMITS.fewestDigits + 1 },
  (_, index) => PICTURE_LIMITS.fewestDigits + index,
);
/** Pictures that are shown before they are saved. */
const SHOWN = 8;
const CLEAR = 'bg-[repeating-conic-gradient(var(--rule-soft)_0_25%,transparent_0_50%)] bg-[length:14px_14px]';

export function PicturesCard(): ReactElement {
  const document = useSceneDocument();
  const { track, charts, character } = useSpeaker();
  const { lengthFrames, firstFrame } = sceneSettings(document);
  const [baseName, setBaseName] = useState(character.name.toLowerCase().replace(/[^\p{L}_-]/gu, ''));
  const [firstNumber, setFirstNumber] = useState(String(firstFrame));
  const [choices, choose] = useKeptChoices('pictures', {
    size: SIZES[0] as string,
    withHead: false,
    digits: 4,
    which: 'every' as WhichPictures,
    format: 'png' as PictureFormat,
    onGround: false,
    colour: '#f3ead6',
  });
  const { size, withHead, digits, which, format, onGround, colour } = choices;
  const handOff = useHandOff('pictures');
  const [width, height] = size.split('x').map(Number) as [number, number];
  const options = {
    baseName: baseName.trim(),
    firstNumber: firstNumber.trim() === '' ? Number.NaN : Number(firstNumber),
    ...{ width, height, digits, which, format },
    ...(onGround && { ground: colour }),
  };
  const [fault] = checkPictureOptions(options, lengthFrames);
  const planned = useMemo(() => {
    const own = new Map([...charts].sort(([a], [b]) => Number(b === track.chartId) - Number(a === track.chartId)));
    return plannedPictures(looksOfFrames(document, track.id, charts), own, { firstNumber: Number(firstNumber) || 0, which });
  }, [document, track.id, track.chartId, charts, firstNumber, which]);
  const nameOf = (number: number): string => pictureName(options.baseName, number, options);

  return (
    <Card
      title="Numbered pictures"
      says={`${planned.length} pictures in a zip file, every mouth’s cross in the same place, each distinct one drawn once.`}
      counts={fault || planned.length === 0 ? undefined : `${nameOf(planned[0]!.number)} to ${nameOf(planned.at(-1)!.number)}.`}
    >
      <div className="mb-4 grid grid-cols-8 gap-2 max-[1240px]:grid-cols-4">
        {planned.slice(0, SHOWN).map(({ number, shown: look, frames }) => {
          const chart = charts.get(look?.chartId ?? track.chartId)!;
          const drawing = look && maybeDrawing(chart, look.drawing);
          return (
            <figure
              key={number}
              className={`overflow-hidden rounded-lg border border-rule-soft ${onGround ? '' : CLEAR}`}
              style={onGround ? { background: colour } : undefined}
            >
              {withHead ? (
                <Easel name={character.name} bare chart={chart} drawing={drawing} className="h-[76px] border-0!" />
              ) : (
                <div className="h-[76px]">
                  {drawing && <Mouth chart={chart} drawing={drawing} lookIndex={look.look} className="mx-auto h-full" />}
                </div>
              )}
              <figcaption className="truncate bg-lift px-1.5 py-0.5 text-center text-[12px] text-ink-soft">
                {fault ? '–' : which === 'changes' ? `${nameOf(number)}, ${frames} fr.` : nameOf(number)}
              </figcaption>
            </figure>
          );
        })}
      </div>
      <div className="mb-3 grid grid-cols-3 gap-x-4 gap-y-3">
        <label className="flex flex-col gap-1 font-semibold">
          Which
          <select className="field font-normal" value={which} onChange={({ target }) => choose({ which: target.value as WhichPictures })}>
            {WHICH.map(([value, text]) => (
              <option key={value} value={value}>
                {text}
              </option>
            ))}
          </select>
        </label>
        <label className="flex flex-col gap-1 font-semibold">
          Base name
          <input className="field font-normal" value={baseName} onChange={(event) => setBaseName(event.target.value)} spellCheck={false} />
        </label>
        <div className="grid grid-cols-2 gap-3">
          <label className="flex flex-col gap-1 font-semibold">
            First number
            <input
              className="field font-normal"
              inputMode="numeric"
              value={firstNumber}
              disabled={which === 'chart'}
              onChange={(event) => setFirstNumber(event.target.value)}
            />
          </label>
          <label className="flex flex-col gap-1 font-semibold">
            Digits
            <select className="field font-normal" value={digits} onChange={({ target }) => choose({ digits: Number(target.value) })}>
              {DIGITS.map((count) => (
                <option key={count}>{count}</option>
              ))}
            </select>
          </label>
        </div>
        <label className="flex flex-col gap-1 font-semibold">
          Size
          <select className="field font-normal" value={size} onChange={({ target }) => choose({ size: target.value })}>
            {SIZES.map((value) => (
              <option key={value} value={value}>
                {value.replace('x', ' × ')}
              </option>
            ))}
          </select>
        </label>
        <label className="flex flex-col gap-1 font-semibold">
          Format
          <select className="field font-normal" value={format} onChange={({ target }) => choose({ format: target.value as PictureFormat })}>
            <option value="png">PNG</option>
            <option value="webp">WebP, lossless</option>
          </select>
        </label>
        <fieldset className="flex flex-col gap-1">
          <legend className="mb-1 font-semibold">Picture</legend>
          <label className="flex items-center gap-2">
            <input
              type="radio"
              name="content"
              checked={!withHead}
              onChange={() => choose({ withHead: false })}
              className="accent-[var(--zest)]"
            />
            mouth alone
          </label>
          <label className="flex items-center gap-2">
            <input
              type="radio"
              name="content"
              checked={withHead}
              onChange={() => choose({ withHead: true })}
              className="accent-[var(--zest)]"
            />
            mouth on the head
          </label>
        </fieldset>
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={onGround} onChange={({ target }) => choose({ onGround: target.checked })} />
          on a colour, not transparent
        </label>
        {onGround && (
          <label className="flex items-center gap-2">
            <input
              type="color"
              className="h-[28px] w-[44px] rounded border border-rule bg-transparent"
              value={colour}
              onChange={({ target }) => choose({ colour: target.value })}
            />
            colour
          </label>
        )}
      </div>
      {fault ? (
        <p className="min-h-[40px] text-[14px] text-bad" role="status">
          {fault}
        </p>
      ) : null}
      <SaveRow
        handOff={handOff}
        label="Save pictures"
        request={{ ...options, trackId: track.id, withHead }}
        said={`${planned.length} pictures saved.`}
        disabled={fault !== undefined}
      />
    </Card>
  );
}
