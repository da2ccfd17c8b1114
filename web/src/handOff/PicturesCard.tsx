/** Numbered pictures in a zip: one a frame, only where they change, or each drawing once. */
import {
  checkPictureOptions,
  headOfTemplate,
  facesOfFrames,
  looksOfFrames,
  mouthLaneOf,
  mouthLanes,
  maybeDrawing,
  MOUTH_BOX,
  PICTURE_LIMITS,
  pictureName,
  plannedPictures,
  sceneSettings,
  type PictureFormat,
  type PictureTemplate,
  type WhichPictures,
} from '@zest-jaw/core';
import { useMemo, useState, type ReactElement } from 'react';
import { usePictureChooser } from '../chart/usePictureChooser.js';
import { Easel } from '../mouth/Easel.js';
import { Mouth } from '../mouth/Mouth.js';
import { useSceneDocument, useSpeaker } from '../scene/sceneContext.js';
import { Button } from '../ui/Button.js';
import { Slider } from '../ui/Slider.js';
import { Card } from './Card.js';
import { SaveRow } from './SaveRow.js';
import { useHandOff } from './useHandOff.js';
import { useKeptChoices } from './useKeptChoices.js';

const SIZES = ['1920x1080', '1280x720', '1080x1080', '512x512'] as const;
const OWN_SIZE = 'own';
/** What is in the picture. */
const ON = [
  ['mouth', 'mouth alone'],
  ['head', 'mouth on the head'],
  ['template', 'mouth on a template'],
] as const;
type On = (typeof ON)[number][0];
type Lanes = 'this' | 'each' | 'together';
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

interface PixelFieldProps {
  readonly label: string;
  readonly value: number;
  readonly onChange: (value: number) => void;
}

function PixelField({ label, value, onChange }: PixelFieldProps): ReactElement {
  return (
    <input
      type="number"
      aria-label={label}
      className="field w-[92px]"
      min={PICTURE_LIMITS.least}
      max={PICTURE_LIMITS.most}
      value={value}
      onChange={({ target }) => onChange(Math.round(Number(target.value)))}
    />
  );
}

export function PicturesCard(): ReactElement {
  const document = useSceneDocument();
  const { track, chart: own, allCharts, character } = useSpeaker();
  const { lengthFrames, firstFrame } = sceneSettings(document);
  const [baseName, setBaseName] = useState(character.name.toLowerCase().replace(/[^\p{L}_-]/gu, ''));
  const [firstNumber, setFirstNumber] = useState(String(firstFrame));
  const [choices, choose] = useKeptChoices('pictures', {
    size: SIZES[0] as string,
    ownWidth: 1024,
    ownHeight: 1024,
    on: 'mouth' as On,
    cut: false,
    lanes: 'this' as Lanes,
    templatePicture: '',
    templateWidth: 1,
    templateHeight: 1,
    templateX: 0,
    templateY: 0,
    templateScale: 1,
    templateAngle: 0,
    templateIsSeen: true,
    digits: 4,
    which: 'every' as WhichPictures,
    format: 'png' as PictureFormat,
    onGround: false,
    colour: '#f3ead6',
  });
  const { size, on, digits, which, format, onGround, colour, cut, ownWidth, ownHeight } = choices;
  const withHead = on === 'head';
  const mouths = useMemo(() => mouthLanes(document), [document]);
  // A head has all of its parts on it, whichever is worked on.
  const lane = withHead ? mouthLaneOf(document, track) : track;
  const lanes = document.tracks.length > 1 ? choices.lanes : 'this';
  const isTogether = lanes === 'together';
  const handOff = useHandOff('pictures');
  const chooser = usePictureChooser('Template to put the mouth on');
  const [width, height] = size === OWN_SIZE ? [ownWidth, ownHeight] : (size.split('x').map(Number) as [number, number]);
  const template: PictureTemplate | undefined =
    on === 'template' && choices.templatePicture !== ''
      ? {
          picture: choices.templatePicture,
          width: choices.templateWidth,
          height: choices.templateHeight,
          mouth: { x: choices.templateX, y: choices.templateY, scale: choices.templateScale, angle: choices.templateAngle },
          isSeen: choices.templateIsSeen,
        }
      : undefined;
  const askForTemplate = (): void =>
    chooser.ask((art) =>
      choose({
        templatePicture: art.picture,
        templateWidth: art.width,
        templateHeight: art.height,
        templateX: Math.round(art.width / 2),
        templateY: Math.round(art.height / 2),
        // A quarter of it wide, to begin with.
        templateScale: art.width / 4 / MOUTH_BOX.width,
        templateAngle: 0,
        size: OWN_SIZE,
        ownWidth: Math.max(PICTURE_LIMITS.least, Math.min(PICTURE_LIMITS.most, Math.round(art.width))),
        ownHeight: Math.max(PICTURE_LIMITS.least, Math.min(PICTURE_LIMITS.most, Math.round(art.height))),
      }),
    );
  const options = {
    baseName: baseName.trim(),
    firstNumber: firstNumber.trim() === '' ? Number.NaN : Number(firstNumber),
    ...{ width, height, digits, which, format },
    ...(onGround && { ground: colour }),
    ...(cut && { cut }),
    ...(template && { template }),
  };
  const [wrong] = checkPictureOptions(options, lengthFrames);
  const fault =
    wrong ??
    (on === 'template' && !template
      ? 'Choose the picture that the mouth is put on.'
      : isTogether && (on === 'template' || which === 'chart')
        ? 'All lanes on one picture are of frames, with their heads or alone. Choose another picture, or other lanes.'
        : undefined);
  const lanesShown = useMemo(() => (isTogether ? mouths : [lane]), [isTogether, mouths, lane]);
  const planned = useMemo(() => {
    const [first, ...rest] = lanesShown;
    const own = new Map([...allCharts].sort(([a], [b]) => Number(b === first!.chartId) - Number(a === first!.chartId)));
    const looks = withHead ? facesOfFrames : looksOfFrames;
    const others = rest.map(({ id }) => looks(document, id, allCharts));
    return plannedPictures(looks(document, first!.id, allCharts), own, { firstNumber: Number(firstNumber) || 0, which }, others);
  }, [document, lanesShown, allCharts, firstNumber, which, withHead]);
  const nameOf = (number: number): string => pictureName(options.baseName, number, options);

  return (
    <Card
      title="Numbered pictures"
      says={`${planned.length} pictures in a zip file, every mouth’s cross in the same place, each distinct one drawn once.`}
      counts={fault || planned.length === 0 ? undefined : `${nameOf(planned[0]!.number)} to ${nameOf(planned.at(-1)!.number)}.`}
    >
      <div className="mb-4 grid grid-cols-8 gap-2 max-[1240px]:grid-cols-4">
        {planned.slice(0, SHOWN).map(({ number, shown, others = [], frames }) => {
          const looks = [shown, ...others];
          return (
            <figure
              key={number}
              className={`overflow-hidden rounded-lg border border-rule-soft ${onGround ? '' : CLEAR}`}
              style={onGround ? { background: colour } : undefined}
            >
              <div className="flex h-[76px]">
                {looks.map((look, lane) => {
                  const chart = allCharts.get(look?.chartId ?? lanesShown[lane]!.chartId)!;
                  const drawing = look && maybeDrawing(chart, look.drawing);
                  return withHead || template ? (
                    <Easel
                      key={lanesShown[lane]!.id}
                      name={character.name}
                      bare
                      chart={template ? { ...chart, head: [headOfTemplate(template)] } : chart}
                      drawing={drawing}
                      boil={look?.boil}
                      face={look?.face}
                      className="h-[76px] min-w-0 flex-1 border-0!"
                    />
                  ) : (
                    <div key={lanesShown[lane]!.id} className="h-[76px] min-w-0 flex-1">
                      {drawing && <Mouth chart={chart} drawing={drawing} lookIndex={look.look} className="mx-auto h-full" />}
                    </div>
                  );
                })}
              </div>
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
        <div className="flex flex-col gap-1">
          <span className="font-semibold">Size</span>
          <select aria-label="Size" className="field" value={size} onChange={({ target }) => choose({ size: target.value })}>
            {SIZES.map((value) => (
              <option key={value} value={value}>
                {value.replace('x', ' × ')}
              </option>
            ))}
            <option value={OWN_SIZE}>of your own</option>
          </select>
          {size === OWN_SIZE && (
            <span className="mt-1 flex items-center gap-2 font-normal">
              <PixelField label="Width in pixels" value={ownWidth} onChange={(value) => choose({ ownWidth: value })} />
              ×
              <PixelField label="Height in pixels" value={ownHeight} onChange={(value) => choose({ ownHeight: value })} />
            </span>
          )}
        </div>
        <label className="flex flex-col gap-1 font-semibold">
          Format
          <select className="field font-normal" value={format} onChange={({ target }) => choose({ format: target.value as PictureFormat })}>
            <option value="png">PNG</option>
            <option value="webp">WebP, lossless</option>
          </select>
        </label>
        <fieldset className="flex flex-col gap-1">
          <legend className="mb-1 font-semibold">Picture</legend>
          {ON.map(([value, said]) => (
            <label key={value} className="flex items-center gap-2">
              <input type="radio" name="content" checked={on === value} onChange={() => choose({ on: value })} />
              {said}
            </label>
          ))}
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
        <label className="flex items-center gap-2">
          <input type="checkbox" checked={cut} onChange={({ target }) => choose({ cut: target.checked })} />
          cut to the ink, with a table of places
        </label>
        {document.tracks.length > 1 && (
          <label className="flex flex-col gap-1 font-semibold">
            Lanes
            <select className="field font-normal" value={choices.lanes} onChange={({ target }) => choose({ lanes: target.value as Lanes })}>
              <option value="this">{`only that of ${character.name}`}</option>
              <option value="each">every lane, in a folder each</option>
              <option value="together">all lanes on one picture, side by side</option>
            </select>
          </label>
        )}
      </div>
      {chooser.input}
      {on === 'template' && (
        <fieldset className="mb-3 grid grid-cols-[minmax(0,1fr)_300px] gap-x-6 gap-y-1 rounded-lg border border-rule-soft p-3">
          <legend className="px-1 font-semibold">Template</legend>
          <div className="flex items-center gap-4">
            <Button disabled={chooser.busy} onClick={askForTemplate}>
              {template ? 'Another picture' : 'Choose a picture'}
            </Button>
            {template && (
              <label className="flex items-center gap-2">
                <input type="checkbox" checked={template.isSeen} onChange={({ target }) => choose({ templateIsSeen: target.checked })} />
                the template is written with the mouth
              </label>
            )}
          </div>
          {template && (
            <>
              <Easel
                name={character.name}
                bare
                chart={{ ...own, head: [headOfTemplate(template)] }}
                drawing={[...own.drawings].sort((a, b) => b.place - a.place)[0]}
                className="col-start-2 row-span-5 row-start-1 h-[150px]"
              />
              <Slider
                label="Across"
                value={template.mouth.x}
                least={0}
                most={template.width}
                step={0.5}
                onChange={(x) => choose({ templateX: x })}
              />
              <Slider
                label="Down"
                value={template.mouth.y}
                least={0}
                most={template.height}
                step={0.5}
                onChange={(y) => choose({ templateY: y })}
              />
              <Slider
                label="Size"
                value={template.mouth.scale}
                least={template.width * 0.0005}
                most={template.width * 0.01}
                step={template.width * 0.0001}
                onChange={(scale) => choose({ templateScale: scale })}
              />
              <Slider
                label="Turn"
                value={template.mouth.angle}
                least={-180}
                most={180}
                step={0.5}
                onChange={(angle) => choose({ templateAngle: angle })}
              />
            </>
          )}
        </fieldset>
      )}
      {fault ? (
        <p className="min-h-[40px] text-[14px] text-bad" role="status">
          {fault}
        </p>
      ) : null}
      <SaveRow
        handOff={handOff}
        label="Save pictures"
        request={{ ...options, trackId: lane.id, withHead, ...(lanes !== 'this' && { lanes }) }}
        intoFolder
        said={`${planned.length} pictures saved.`}
        disabled={fault !== undefined}
      />
    </Card>
  );
}
