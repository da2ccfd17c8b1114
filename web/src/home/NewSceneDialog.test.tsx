import { starterChart, type ChartView, type ProductionView } from '@zest-jaw/core';
import { fireEvent, render, screen, waitFor } from '@testing-library/react';
import { MemoryRouter, Route, Routes } from 'react-router';
import { NewSceneDialog } from './NewSceneDialog.js';

const chart: ChartView = { id: 'chart', characterId: 'bramble', name: 'Chart', revision: 0, document: starterChart('Chart', 'brush') };
const character = (id: string, name: string) => ({
  id,
  name,
  chartId: 'chart',
});
const production: ProductionView = {
  id: 'p',
  name: 'Night Post',
  characters: [character('bramble', 'Bramble'), character('odette', 'Odette')],
};

let sent: FormData | undefined;
let answer: { status: number; body: object };

beforeEach(() => {
  sent = undefined;
  answer = { status: 201, body: { sceneId: 'new', jobId: 'j' } };
  Object.assign(globalThis, {
    ResizeObserver: class {
      observe = (): void => undefined;
      unobserve = (): void => undefined;
      disconnect = (): void => undefined;
    },
    fetch: async (_: string, init: { body: FormData }) => {
      sent = init.body;
      return { ok: answer.status < 300, status: answer.status, text: async () => JSON.stringify(answer.body) };
    },
  });
  render(
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
    </MemoryRouter>,
  );
});

const type = (label: string, value: string): void => void fireEvent.change(screen.getByLabelText(label), { target: { value } });
const submit = (): void => void fireEvent.click(screen.getByRole('button', { name: 'Read the track' }));

describe('a new scene', () => {
  it('is named for its file, and sent with what was chosen', async () => {
    expect(screen.getByLabelText('Title')).toHaveProperty('value', 'take 3');
    type('What is said', 'Put the stamp there.');
    fireEvent.change(screen.getByLabelText('Frame rate'), { target: { value: '12' } });
    fireEvent.change(screen.getByLabelText('Mouths on'), { target: { value: '1' } });
    fireEvent.click(screen.getByRole('radio', { name: 'Odette' }));
    submit();
    await waitFor(() => screen.getByText('the new scene'));
    expect(Object.fromEntries([...sent!.entries()].filter(([, value]) => typeof value === 'string'))).toEqual({
      title: 'take 3',
      script: 'Put the stamp there.',
      frameRate: '12',
      characterId: 'odette',
      holdFrames: '1',
    });
    expect((sent!.get('recording') as File).name).toBe('take 3.wav');
  });

  it('asks for the line before it sends anything', () => {
    type('What is said', '(sighs)');
    submit();
    expect(screen.getByRole('alert').textContent).toMatch(/Type the line/);
    expect(sent).toBeUndefined();
  });

  it('asks for a frame rate that is one', () => {
    type('What is said', 'hello');
    fireEvent.change(screen.getByLabelText('Frame rate'), { target: { value: 'other' } });
    type('Frames a second', '0');
    submit();
    expect(screen.getByRole('alert').textContent).toMatch(/“0”/);
    expect(sent).toBeUndefined();
  });

  it('shows what the server says, keeps what was typed, and can be sent again', async () => {
    answer = { status: 422, body: { detail: 'This is not a WAV file.' } };
    type('What is said', 'hello');
    submit();
    await waitFor(() => expect(screen.getByRole('alert').textContent).toBe('This is not a WAV file.'));
    expect(screen.getByLabelText('What is said')).toHaveProperty('value', 'hello');
    expect(screen.getByRole('button', { name: 'Read the track' })).toHaveProperty('disabled', false);
  });
});
