/** Where the scenes of a production stand: how long, how much is inked, what the check found, when they were touched. */
import type { NoteCounts } from '@zest-jaw/core';
import { useQuery } from '@tanstack/react-query';
import { useMemo, type ReactElement } from 'react';
import { Link, useParams } from 'react-router';
import { api, sentenceOf } from '../api/http.js';
import { useProductions, useScenes } from '../api/queries.js';
import { WeightMark } from '../check/NoteList.js';
import { AlonePage } from '../ui/AlonePage.js';
import { TopBar } from '../ui/Frame.js';
import { PLAIN_COLUMNS, SceneSearchField, ScenesTable, useSceneSearch, type SceneColumn, type SceneRow } from './ScenesTable.js';

/** The table is brought up to date after so many checks. */
const SHOWN_EVERY = 10;

/** Scenes that were not checked since they were changed stand behind those that were. */
const counted =
  (of: (notes: NoteCounts) => number) =>
  ({ notes }: SceneRow): number =>
    notes ? of(notes) : -1;

const { speaker, length, inked, touched } = PLAIN_COLUMNS;
const COLUMNS: readonly SceneColumn[] = [
  {
    ...PLAIN_COLUMNS.title,
    cell: ({ id, title }) => (
      <Link to={`/scenes/${id}/check`} className="font-semibold underline-offset-2 hover:underline">
        {title}
      </Link>
    ),
  },
  speaker,
  length,
  {
    ...inked,
    wide: 'w-[150px]',
    cell: ({ inked: share }) => (
      <span className="flex items-center gap-2">
        <span className="h-1.5 w-[70px] rounded-full bg-rule-soft" aria-hidden>
          <span className="block h-full rounded-full bg-ink" style={{ width: `${share * 100}%` }} />
        </span>
        {`${Math.round(share * 100)} %`}
      </span>
    ),
  },
  ...(
    [
      ['heavy', 3, 'Everybody sees'],
      ['seen', 2, 'Seen'],
      ['small', 1, 'To know'],
    ] as const
  ).map(([id, weight, said]): SceneColumn => ({
    ...{ id, said, wide: 'w-[132px]', by: counted((notes) => notes[id]) },
    cell: ({ notes }) =>
      notes ? (
        <span className="flex gap-2">
          <WeightMark weight={weight} />
          {notes[id]}
        </span>
      ) : (
        <span className="text-ink-soft" title="It was not checked since it was changed: open it, and it is.">
          not checked
        </span>
      ),
  })),
  {
    id: 'remarks',
    said: 'Remarks',
    wide: 'w-[96px]',
    by: counted(({ remarks }) => remarks),
    cell: ({ notes }) => (notes ? notes.remarks : ''),
  },
  touched,
];

export function OverviewPage(): ReactElement {
  const { productionId = '' } = useParams();
  const productions = useProductions();
  const scenes = useScenes();
  const production = productions.data?.find(({ id }) => id === productionId);
  // What has not been checked since it was changed is, one scene after another, while somebody looks.
  const { data: waiting = 0 } = useQuery({
    queryKey: ['checks', productionId],
    queryFn: async () => {
      const { left } = await api<{ left: number }>(`/productions/${productionId}/checks`, { method: 'POST' });
      // Of a thousand scenes the list is not asked for a thousand times.
      if (left % SHOWN_EVERY === 0) await scenes.refetch();
      return left;
    },
    refetchInterval: ({ state: { data } }) => (data === 0 ? 10_000 : 300),
    enabled: production !== undefined,
    retry: false,
  });
  const rows = useMemo(() => {
    const names = new Map(production?.characters.map(({ id, name }) => [id, name]));
    return (scenes.data ?? [])
      .filter((scene) => scene.productionId === productionId)
      .map((scene): SceneRow => ({ ...scene, speaker: names.get(scene.characterId ?? '') ?? 'Nobody' }));
  }, [scenes.data, production, productionId]);
  const search = useSceneSearch(rows, COLUMNS);
  const failed = productions.error ?? scenes.error;
  if (failed) return <AlonePage title="This production cannot be shown" text={sentenceOf(failed)} />;
  if (!productions.data || !scenes.data) return <AlonePage busy title="Opening the production…" />;
  if (!production) return <AlonePage title="This production is not here" text="Go home and choose one." />;
  const seconds = rows.reduce((sum, row) => sum + PLAIN_COLUMNS.length.by(row), 0);
  return (
    <div className="flex h-full flex-col">
      <TopBar>
        <p className="flex-1 truncate">
          <Link to="/" className="text-ink-soft underline underline-offset-2 hover:text-ink">
            {production.name}
          </Link>
          <span className="text-ink-soft"> / </span>
          <span className="font-semibold">Where it stands</span>
        </p>
      </TopBar>
      <main className="flex min-h-0 flex-1 flex-col gap-3 p-[16px_18px]">
        <div className="flex items-baseline gap-4">
          <h1 className="name text-[21px]">Where it stands</h1>
          <p className="text-ink-soft" role="status">
            {`${rows.length} ${rows.length === 1 ? 'scene' : 'scenes'}, ${Math.floor(seconds / 60)} min ${Math.round(seconds % 60)} s${waiting > 0 ? `; ${waiting} still to be checked` : ''}`}
          </p>
          <SceneSearchField search={search} />
        </div>
        <ScenesTable search={search} columns={COLUMNS} isEmpty={rows.length === 0} />
      </main>
    </div>
  );
}
