/** The room: who one is, who has signed in, links for devices that look and shoot, and the passphrase. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import type { RoomLinkView, RoomMember, RoomSessionView } from '@zest-jaw/core';
import { useId, useState, type ReactElement, type ReactNode } from 'react';
import { toast } from 'sonner';
import { api, sendJson, sentenceOf } from '../api/http.js';
import { AlonePage } from '../ui/AlonePage.js';
import { Button } from '../ui/Button.js';
import { TopBar } from '../ui/Frame.js';
import { ROOM_KEY, useRoom } from './useRoom.js';

const SESSIONS_KEY = ['room', 'sessions'] as const;
const LINKS_KEY = ['room', 'links'] as const;
const when = new Intl.DateTimeFormat('en', { day: 'numeric', month: 'short', hour: '2-digit', minute: '2-digit', hourCycle: 'h23' });

const tell = (error: unknown): void => void toast.error(sentenceOf(error));

function Part({ title, children }: { title: string; children: ReactNode }): ReactElement {
  const id = useId();
  return (
    <section aria-labelledby={id} className="flex flex-col gap-3 rounded-2xl border border-rule bg-sheet p-5">
      <h2 id={id} className="name text-[20px] leading-none">
        {title}
      </h2>
      {children}
    </section>
  );
}

function You({ me }: { me: RoomMember }): ReactElement {
  const client = useQueryClient();
  const [name, setName] = useState(me.name);
  const rename = useMutation({
    mutationFn: () => sendJson('PUT', '/room/sessions/mine', { name }),
    onSuccess: () => client.invalidateQueries({ queryKey: ROOM_KEY }),
    onError: tell,
  });
  const leave = useMutation({
    mutationFn: () => api('/room/sessions/mine', { method: 'DELETE' }),
    onSuccess: () => window.location.replace('/'),
    onError: tell,
  });
  const isNew = name.trim() !== '' && name.trim() !== me.name;
  return (
    <Part title="You">
      <form
        className="flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (isNew) rename.mutate();
        }}
      >
        <label className="flex-1 text-[14px] text-ink-soft">
          What the others call you
          <input className="field mt-0.5 w-full" maxLength={40} value={name} onChange={({ target }) => setName(target.value)} />
        </label>
        <Button type="submit" disabled={!isNew || rename.isPending}>
          Rename
        </Button>
        <Button onClick={() => leave.mutate()}>Sign out</Button>
      </form>
      <p className="text-[14px] text-ink-soft">It stands beside what you change from now on, in the history of every scene.</p>
    </Part>
  );
}

function Sessions(): ReactElement {
  const client = useQueryClient();
  const { data, error } = useQuery({ queryKey: SESSIONS_KEY, queryFn: () => api<RoomSessionView[]>('/room/sessions') });
  const end = useMutation({
    mutationFn: (id: string) => api(`/room/sessions/${id}`, { method: 'DELETE' }),
    onSettled: () => client.invalidateQueries({ queryKey: SESSIONS_KEY }),
    onError: tell,
  });
  return (
    <Part title="Who has signed in">
      {error && <p className="text-bad">{sentenceOf(error)}</p>}
      <ul className="flex max-h-[280px] flex-col overflow-y-auto" tabIndex={0} aria-label="Who has signed in">
        {data?.map(({ id, name, isGuest, seenAt, isMine }) => (
          <li key={id} className="flex min-h-[42px] items-center gap-3 border-t border-rule-soft first:border-0">
            <b className="min-w-0 truncate font-semibold">{name}</b>
            <span className="flex-1 truncate text-[14px] text-ink-soft">
              {`${isMine ? 'this browser' : `seen ${when.format(Date.parse(seenAt))}`}${isGuest ? ' · by a link, looks and shoots' : ''}`}
            </span>
            {!isMine && (
              <Button className="py-[3px]!" aria-label={`Show out: ${name}`} disabled={end.isPending} onClick={() => end.mutate(id)}>
                Show out
              </Button>
            )}
          </li>
        ))}
      </ul>
    </Part>
  );
}

function Links(): ReactElement {
  const client = useQueryClient();
  const { data, error } = useQuery({ queryKey: LINKS_KEY, queryFn: () => api<RoomLinkView[]>('/room/links') });
  const remove = useMutation({
    mutationFn: (id: string) => api(`/room/links/${id}`, { method: 'DELETE' }),
    onSettled: () => client.invalidateQueries({ queryKey: LINKS_KEY }),
    onError: tell,
  });
  return (
    <Part title="Links to look and to shoot">
      <p className="text-[14px] text-ink-soft">
        A device that is opened by one may look, shoot, and leave remarks, and nothing else. They are made where they lead: on a review page
        and at the stage, by “Link for another device”.
      </p>
      {error && <p className="text-bad">{sentenceOf(error)}</p>}
      {data?.length === 0 && <p>There is none.</p>}
      <ul>
        {data?.map(({ id, name, createdAt }) => (
          <li key={id} className="flex min-h-[42px] items-center gap-3 border-t border-rule-soft first:border-0">
            <b className="min-w-0 truncate font-semibold">{name}</b>
            <span className="flex-1 text-[14px] text-ink-soft">{`since ${when.format(Date.parse(createdAt))}`}</span>
            <Button className="py-[3px]!" aria-label={`Take away: ${name}`} onClick={() => remove.mutate(id)}>
              Take away
            </Button>
          </li>
        ))}
      </ul>
    </Part>
  );
}

function Passphrase(): ReactElement {
  const client = useQueryClient();
  const [now, setNow] = useState('');
  const [next, setNext] = useState('');
  const change = useMutation({
    mutationFn: () => sendJson('PUT', '/room/passphrase', { now, next }),
    onSuccess: () => {
      setNow('');
      setNext('');
      toast.success('The passphrase is another one now. Everybody else signs in anew.');
      return client.invalidateQueries({ queryKey: ROOM_KEY });
    },
  });
  const isWhole = now !== '' && next !== '';
  return (
    <Part title="The passphrase">
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (isWhole && !change.isPending) change.mutate();
        }}
      >
        <label className="text-[14px] text-ink-soft">
          As it is now
          <input
            className="field mt-0.5 w-full"
            type="password"
            autoComplete="current-password"
            value={now}
            onChange={({ target }) => setNow(target.value)}
          />
        </label>
        <label className="text-[14px] text-ink-soft">
          As it is to be, 12 letters or more
          <input
            className="field mt-0.5 w-full"
            type="password"
            autoComplete="new-password"
            value={next}
            onChange={({ target }) => setNext(target.value)}
          />
        </label>
        {change.isError && (
          <p role="alert" className="text-bad">
            {sentenceOf(change.error)}
          </p>
        )}
        <div className="flex items-center gap-3">
          <Button type="submit" disabled={!isWhole || change.isPending}>
            Change it
          </Button>
          <span className="text-[14px] text-ink-soft">Everybody else is signed out, and links lead nowhere any more.</span>
        </div>
      </form>
    </Part>
  );
}

export function RoomPage(): ReactElement {
  const { data, error } = useRoom();
  if (error) return <AlonePage title="The room cannot be shown" text={sentenceOf(error)} />;
  if (!data) return <AlonePage busy title="Opening the room…" />;
  if (!data.isRoom)
    return (
      <AlonePage
        title="This one is of this computer alone"
        text="Started with npm start -- --host and an address of this computer, it serves a room, which signs in with a passphrase."
      />
    );
  if (!data.me || data.me.isGuest)
    return <AlonePage title="The room is for those who signed in" text="Ask for the passphrase to see it." />;
  return (
    <div className="flex h-full flex-col">
      <TopBar>
        <h1 className="min-w-0 flex-1 truncate text-ink-soft">
          <b className="font-semibold text-ink">The room</b>
        </h1>
      </TopBar>
      <main className="min-h-0 flex-1 overflow-y-auto px-8 py-7">
        <div className="mx-auto grid max-w-[1080px] grid-cols-1 items-start gap-5 min-[900px]:grid-cols-2">
          <div className="flex flex-col gap-5">
            <You me={data.me} />
            <Passphrase />
          </div>
          <div className="flex flex-col gap-5">
            <Sessions />
            <Links />
          </div>
        </div>
      </main>
    </div>
  );
}
