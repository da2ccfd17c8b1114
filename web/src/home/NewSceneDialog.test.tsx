import { PLAIN_ACCENT, starterChart, type ChartView, type JobView, type ProductionView } from '@zest-jaw/core';
import { QueryClient, QueryClientProvider } from '@tanstack/react-query';
import { act, fireEvent, render, screen, waitFor } from '@testing-library/react';
import { MemoryRouter, Route, Routes } from 'react-router';
import { NewSceneDialog } from './NewSceneDialog.js';

const chart: ChartView = { id: 'chart', characterId: 'bramble', name: 'Chart', revision: 0, document: starterChart('Chart', 'brush') };
const character = (id: string, name: string) => ({
  id,
  name,
  chartId: 'chart',
  accent: PLAIN_ACCENT,
});
const production: ProductionView = {
  id: 'p',
  name: 'Night Post',
  characters: [character('bramble', 'Bramble'), character('odette', 'Odette')],
};

let sent: Record<string, unknown> | undefined;
let uploaded: string | undefined;
let answer: { status: number; body: object };
/** How decoding ends. */
let decoded: Partial<JobView>;
let cancelled: string[];
let leave: () => void;

const job: JobView = {
  id: 'r',
  kind: 'recording',
  sceneId: null,
  state: 'running',
  done: 0.4,
  message: 'Decoding the recording',
  warnings: [],
  offers: false,
};

class StandInEvents {
  static last: StandInEvents | undefined;
  onmessage: ((event: { data: string }) => void) | undefined;
  constructor() {
    StandInEvents.last = this;
  }
  tell = (changes: Partial<JobView>): void => this.onmessage?.({ data: JSON.stringify({ ...job, ...changes }) });
  close = (): void => undefined;
}

beforeEach(() => {
  StandInEvents.last = undefined;
  sent = uploaded = undefined;
  cancelled = [];
  decoded = { state: 'done', done: 1 };
  answer = { status: 201, body: { sceneId: 'new', jobId: 'j' } };
  Object.assign(globalThis, {
    ResizeObserver: class {
      observe = (): void => undefined;
      unobserve = (): void => undefined;
      disconnect = (): void => undefined;
    },
    EventSource: StandInEvents,
    fetch: async (path: string, init: { method?: string; body?: FormData | string }) => {
      const respond = (status: number, body: object) => ({ ok: status < 300, status, text: async () => JSON.stringify(body) });
      if (init.method === 'DELETE') cancelled.push(path);
      if (path === '/api/recordings') {
        uploaded = ((init.body as FormData).get('recording') as File).name;
        return respond(201, job);
      }
      if (path === '/api/recordings/r') return respond(200, { id: 'r', audio: 'hash', fileName: 'take 3.wav', lengthSamples: 1 });
      if (path !== '/api/scenes') return respond(200, {});
      sent = JSON.parse(init.body as string) as Record<string, unknown>;
      return respond(answer.status, answer.body);
    },
  });
  const { unmount } = render(
    <QueryClientProvider client={new QueryClient()}>
      <MemoryRouter>
        <Routes>
          <Route
            path="/"
            element={
              <NewSceneDialog
                recording={new File(['x'], 'take 3.wav')}
                productions={[production]}
                charts={[chart]}
                onClose={() => undefined}
              />
            }
          />
          <Route path="/scenes/:id/key" element={<p>the new scene</p>} />
        </Routes>
      </MemoryRouter>
    </QueryClientProvider>,
  );
  leave = unmount;
});

const type = (label: string, value: string): void => void fireEvent.change(screen.getByLabelText(label), { target: { value } });
const button = (): HTMLElement => screen.getByRole('button', { name: 'Read the track' });
const submit = (): void => void fireEvent.click(button());
/** The server has decoded what was sent, or has not. */
const arrive = async (): Promise<void> => {
  await waitFor(() => expect(StandInEvents.last?.onmessage).toBeDefined());
  act(() => StandInEvents.last!.tell(decoded));
  if (decoded.state === 'done') await waitFor(() => expect(button()).toHaveProperty('disabled', false));
};

describe('a new scene', () => {
  it('is named for its file, which is decoded meanwhile, and sent with what was chosen', async () => {
    expect(screen.getByLabelText('Title')).toHaveProperty('value', 'take 3');
    expect(button()).toHaveProperty('disabled', true);
    await waitFor(() => expect(uploaded).toBe('take 3.wav'));
    await arrive();
    type('What is said', 'Put the stamp there.');
    fireEvent.change(screen.getByLabelText('Frame rate'), { target: { value: '12' } });
    fireEvent.change(screen.getByLabelText('Mouths on'), { target: { value: '1' } });
    type('First frame', '1001');
    fireEvent.click(screen.getByRole('radio', { name: 'Odette' }));
    submit();
    await waitFor(() => screen.getByText('the new scene'));
    expect(sent).toEqual({
      recordingId: 'r',
      title: 'take 3',
      script: 'Put the stamp there.',
      frameRate: '12',
      characterId: 'odette',
      holdFrames: 1,
      firstFrame: 1001,
    });
  });

  it('shows how far the decoding is, and gives it up with the dialog', async () => {
    await waitFor(() => expect(StandInEvents.last?.onmessage).toBeDefined());
    act(() => StandInEvents.last!.tell({ done: 0.4, message: 'Bringing it to 48 kHz' }));
    await waitFor(() =>
      expect(screen.getByRole('progressbar', { name: 'Decoding the recording' }).getAttribute('aria-valuenow')).toBe('40'),
    );
    leave();
    await waitFor(() => expect(cancelled).toEqual(['/api/jobs/r']));
  });

  it('asks for a frame rate and a first frame that are ones', async () => {
    await arrive();
    fireEvent.change(screen.getByLabelText('Frame rate'), { target: { value: 'other' } });
    type('Frames a second', '0');
    submit();
    expect(screen.getByRole('alert').textContent).toMatch(/“0”/);
    type('Frames a second', '24');
    type('First frame', '-1');
    submit();
    expect(screen.getByRole('alert').textContent).toMatch(/first frame is “-1”/);
    expect(sent).toBeUndefined();
  });

  it('says at once when the recording cannot be used, and keeps what was typed', async () => {
    decoded = { state: 'failed', message: 'This recording is silent.' };
    type('What is said', 'hello');
    await arrive();
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('This recording is silent.'));
    expect(screen.getByLabelText('What is said')).toHaveProperty('value', 'hello');
    expect(button()).toHaveProperty('disabled', true);
  });

  it('shows what the server says, and can be sent again', async () => {
    answer = { status: 422, body: { detail: 'Nobody of that name speaks here.' } };
    await arrive();
    submit();
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('Nobody of that name speaks here.'));
    expect(button()).toHaveProperty('disabled', false);
  });
});
