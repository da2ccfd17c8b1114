/** A production handed off at once: its scenes to choose from, what is wanted of each, what the files are called. */
import { FILE_KINDS, fileNameOf, hasEnded, maybeFaultOfPattern, NAME_PARTS, USUAL_PATTERN, type JobView } from '@zest-jaw/core';
import { clsx } from 'clsx';
import { Download } from 'lucide-react';
import { useEffect, useEffectEvent, useState, type ReactElement } from 'react';
import { Link, useParams } from 'react-router';
import { toast } from 'sonner';
import { sendJson, sentenceOf } from '../api/http.js';
import { cancelJob, useJob } from '../api/job.js';
import { useProductions, useScenes } from '../api/queries.js';
import { AlonePage } from '../ui/AlonePage.js';
import { keep, maybeKept } from '../ui/browserStore.js';
import { Button } from '../ui/Button.js';
import { count } from '../ui/count.js';
import { TopBar } from '../ui/Frame.js';
import { saveUrl } from '../ui/saveText.js';
import { PLAIN_COLUMNS, SceneSearchField, ScenesTable, useSceneSearch, type SceneColumn, type SceneRow } from './ScenesTable.js';

const GROUPS: readonly (readonly [string, readonly string[]])[] = [
  ['To put together', ['pictures', 'timeline']],
  ['To rig and to blend', ['keys', 'weights', 'curves']],
  ['To pin up and to shoot', ['sheet-pdf', 'sheet', 'captions', 'labels', 'shots-pdf', 'shots']],
  ['To keep', ['bundle']],
];
const SAID = new Map<string, string>([
  ...FILE_KINDS.map(({ id, said }) => [id, said] as const),
  ['bundle', 'One bundle of all, which another Zest Jaw opens'],
]);
const SIZES = ['1920x1080', '1280x720', '1080x1080', '512x512'] as const;

const { title, speaker, frames, inked, touched } = PLAIN_COLUMNS;
const COLUMNS: readonly SceneColumn[] = [title, speaker, frames, { ...inked, wide: 'w-[70px]' }, { ...touched, wide: 'w-[116px]' }];

interface Choices {
  readonly wanted: readonly string[];
  readonly pattern: string;
  readonly paper: 'A4' | 'Letter';
  readonly size: string;
  readonly withHead: boolean;
}

const USUAL: Choices = { wanted: ['sheet-pdf', 'keys'], pattern: USUAL_PATTERN, paper: 'A4', size: SIZES[0], withHead: false };

function readChoices(key: string): Choices {
  try {
    const kept = { ...USUAL, ...(JSON.parse(maybeKept(key) ?? '{}') as Partial<Choices>) };
    return { ...kept, wanted: kept.wanted.filter((id) => SAID.has(id)) };
  } catch {
    return USUAL;
  }
}

export function SeveralPage(): ReactElement {
  const { productionId = '' } = useParams();
  const productions = useProductions();
  const scenes = useScenes();
  const failed = productions.error ?? scenes.error;
  if (failed) return <AlonePage title="This production cannot be handed off" text={sentenceOf(failed)} />;
  if (!productions.data || !scenes.data) return <AlonePage busy title="Opening the production…" />;
  const production = productions.data.find(({ id }) => id === productionId);
  if (!production) return <AlonePage title="This production is not here" text="Go home and choose one." />;
  const names = new Map(production.characters.map(({ id, name }) => [id, name]));
  const rows = scenes.data
    .filter((scene) => scene.productionId === productionId)
    .map((scene): SceneRow => ({ ...scene, speaker: names.get(scene.characterId ?? '') ?? 'Nobody' }));
  return <Several key={productionId} productionId={productionId} name={production.name} rows={rows} />;
}

function Several({ productionId, name, rows }: { productionId: string; name: string; rows: readonly SceneRow[] }): ReactElement {
  const key = `zest-jaw hand off ${productionId} several`;
  const [choices, setChoices] = useState(() => readChoices(key));
  const search = useSceneSearch(rows, COLUMNS);
  const { shown } = search;
  const [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  const [jobId, setJobId] = useState<string>();
  const job = useJob(jobId);
  const isBusy = jobId !== undefined && (job === undefined || !hasEnded(job));
  const onDone = useEffectEvent((id: string) => saveUrl(`/api/jobs/${id}/result`, ''));
  const doneId = job?.state === 'done' ? job.id : undefined;
  useEffect(() => {
    if (doneId !== undefined) onDone(doneId);
  }, [doneId]);
  const choose = (changes: Partial<Choices>): void => {
    const next = { ...choices, ...changes };
    setChoices(next);
    keep(key, JSON.stringify(next));
  };
  const { wanted, pattern, paper, size, withHead } = choices;
  // Damaged scenes can be chosen too: the report says of them what it says.
  const chosen = shown.filter(({ id }) => !left.has(id));
  const fault = maybeFaultOfPattern(pattern);
  const example = FILE_KINDS.find(({ id }) => wanted.includes(id));
  const first = chosen[0];
  const named =
    !fault && example && first
      ? fileNameOf(pattern, {
          production: name,
          scene: first.title,
          speaker: example.ofLane ? first.speaker : '',
          what: example.what,
          number: 1,
        }) + (example.ending || '/')
      : undefined;
  const start = async (): Promise<void> => {
    const [width, height] = size.split('x').map(Number);
    const date = new Intl.DateTimeFormat('en-GB', { dateStyle: 'long' }).format(new Date());
    const request = { sceneIds: chosen.map(({ id }) => id), wanted, pattern, paper, date, width, height, withHead };
    try {
      setJobId((await sendJson<JobView>('POST', `/productions/${productionId}/hand-offs`, request)).id);
    } catch (error) {
      toast.error(sentenceOf(error));
    }
  };
  const setAll = (isOn: boolean): void => {
    const ids = shown.map(({ id }) => id);
    setLeft(isOn ? new Set([...left].filter((id) => !ids.includes(id))) : new Set([...left, ...ids]));
  };
  const toggle = (id: string): void => {
    const next = new Set(left);
    if (!next.delete(id)) next.add(id);
    setLeft(next);
  };
  return (
    <div className="flex h-full flex-col">
      <TopBar>
        <p className="flex-1 truncate">
          <Link to="/" className="text-ink-soft hover:text-ink">
            {name}
          </Link>
          <span className="text-ink-soft"> / </span>
          <span className="font-semibold">Hand off</span>
        </p>
      </TopBar>
      <main className="grid min-h-0 flex-1 grid-cols-[minmax(0,1fr)_400px] gap-5 p-[16px_18px]">
        <section aria-labelledby="which" className="flex min-h-0 flex-col rounded-[14px] border border-rule bg-sheet p-5">
          <div className="mb-3 flex items-center gap-4">
            <h1 id="which" className="name text-[21px]">
              Which scenes
            </h1>
            <SceneSearchField search={search} />
          </div>
          <ScenesTable
            search={search}
            columns={COLUMNS}
            isEmpty={rows.length === 0}
            isFaint={({ id }) => left.has(id)}
            lead={{
              head: (
                <input
                  type="checkbox"
                  aria-label="All that are shown"
                  checked={chosen.length === shown.length && shown.length > 0}
                  onChange={({ target }) => setAll(target.checked)}
                />
              ),
              cell: (row) => <input type="checkbox" aria-label={row.title} checked={!left.has(row.id)} onChange={() => toggle(row.id)} />,
            }}
          />
        </section>
        <section aria-labelledby="what" className="flex min-h-0 flex-col gap-3 rounded-[14px] border border-rule bg-sheet p-5">
          <h2 id="what" className="name text-[21px]">
            What is wanted
          </h2>
          <div className="flex min-h-0 flex-1 flex-col gap-4 overflow-y-auto" tabIndex={0} role="region" aria-label="Kinds of files">
            {GROUPS.map(([title, ids]) => (
              <fieldset key={title}>
                <legend className="mb-1 text-[13px] text-ink-soft">{title}</legend>
                {ids.map((id) => (
                  <label key={id} className="flex items-center gap-2 py-0.5">
                    <input
                      type="checkbox"
                      checked={wanted.includes(id)}
                      onChange={({ target }) => choose({ wanted: target.checked ? [...wanted, id] : wanted.filter((one) => one !== id) })}
                    />
                    {SAID.get(id)}
                  </label>
                ))}
              </fieldset>
            ))}
            <div className="flex flex-wrap gap-4">
              {wanted.includes('pictures') && (
                <>
                  <label className="flex flex-col gap-1 font-semibold">
                    Size of pictures
                    <select className="field font-normal" value={size} onChange={({ target }) => choose({ size: target.value })}>
                      {SIZES.map((value) => (
                        <option key={value} value={value}>
                          {value.replace('x', ' × ')}
                        </option>
                      ))}
                    </select>
                  </label>
                  <label className="flex items-center gap-2 self-end pb-2">
                    <input type="checkbox" checked={withHead} onChange={({ target }) => choose({ withHead: target.checked })} />
                    on the head
                  </label>
                </>
              )}
              {wanted.some((id) => id.endsWith('-pdf')) && (
                <label className="flex flex-col gap-1 font-semibold">
                  Paper
                  <select
                    className="field font-normal"
                    value={paper}
                    onChange={({ target }) => choose({ paper: target.value as 'A4' | 'Letter' })}
                  >
                    <option>A4</option>
                    <option>Letter</option>
                  </select>
                </label>
              )}
            </div>
          </div>
          <div className="flex flex-col gap-2 border-t border-rule-soft pt-3">
            <label className="flex flex-col gap-1 font-semibold">
              Files are called
              <input
                className="field font-normal"
                value={pattern}
                aria-invalid={fault !== undefined}
                onChange={({ target }) => choose({ pattern: target.value })}
                spellCheck={false}
              />
            </label>
            <p className={clsx('text-[14px]', fault ? 'text-bad' : 'text-ink-soft')} data-testid="example">
              {fault ?? (named ? `For example ${named}` : `May hold ${NAME_PARTS.map((part) => `{${part}}`).join(', ')}.`)}
            </p>
            <div className="flex min-h-[40px] items-center gap-3">
              <Button
                weight="main"
                disabled={isBusy || chosen.length === 0 || wanted.length === 0 || fault !== undefined}
                onClick={() => void start()}
              >
                <Download size={17} aria-hidden /> {`Hand off ${count(chosen.length, 'scene', 'scenes')}`}
              </Button>
              {isBusy && (
                <Button weight="bare" onClick={() => void cancelJob(jobId)}>
                  Cancel
                </Button>
              )}
            </div>
            {isBusy && <progress className="h-2 w-full accent-[var(--zest)]" value={job?.done ?? 0} aria-label="Handing off" />}
            <p role="status" className={clsx('min-h-[20px] text-[14px]', job?.state === 'failed' ? 'text-bad' : 'text-ink-soft')}>
              {job?.state === 'done'
                ? job.warnings.length === 0
                  ? 'Saved, all of it.'
                  : `Saved but for ${count(job.warnings.length, 'file', 'files')}:`
                : (job?.message ?? '')}
            </p>
            {job && job.warnings.length > 0 && (
              <ul className="max-h-[120px] overflow-y-auto text-[14px] text-bad" aria-label="What could not be made" tabIndex={0}>
                {job.warnings.map((warning) => (
                  <li key={warning}>{warning}</li>
                ))}
              </ul>
            )}
          </div>
        </section>
      </main>
    </div>
  );
}
