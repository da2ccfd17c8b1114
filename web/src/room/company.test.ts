/** What a window says to the others and hears of them, by a socket that opens, breaks and opens again. */
import type { DocumentChange } from '@zest-jaw/core';
import { door } from '../api/door.js';
import { newOthers, openCompany, type CompanyOptions } from './company.js';

beforeEach(() => void jest.useFakeTimers());
afterEach(() => void jest.useRealTimers());

class StandInSocket extends EventTarget {
  readyState = 0;
  readonly sent: string[] = [];
  reconnects = 0;
  send(text: string): void {
    this.sent.push(text);
  }
  close(): void {
    this.readyState = 3;
  }
  reconnect(): void {
    this.reconnects += 1;
  }
  /** It opens, or breaks. */
  becomes(what: 'open' | 'close'): void {
    this.readyState = what === 'open' ? 1 : 3;
    this.dispatchEvent(new Event(what));
  }
  hears(news: object): void {
    this.dispatchEvent(new MessageEvent('message', { data: JSON.stringify(news) }));
  }
}

async function opened(socket = new StandInSocket()) {
  const [changes, openings] = [[] as DocumentChange[], [] as boolean[]];
  const others = newOthers();
  const company = openCompany({
    document: 'scenes/a',
    others,
    onChange: (changed) => changes.push(changed),
    onOpen: (isFirst) => openings.push(isFirst),
    open: (() => Promise.resolve(socket)) as unknown as NonNullable<CompanyOptions['open']>,
  });
  await Promise.resolve();
  return { socket, company, others, changes, openings };
}

it('says where the playhead is, no oftener than ten times a second, and once more when the socket opens again', async () => {
  const { socket, company, openings } = await opened();
  company.tell(3);
  jest.advanceTimersByTime(100);
  expect(socket.sent).toEqual([]);
  socket.becomes('open');
  for (let frame = 4; frame < 40; frame++) company.tell(frame);
  jest.advanceTimersByTime(1000);
  expect(socket.sent).toEqual(['{"frame":3}', '{"frame":39}']);
  company.tell(39);
  jest.advanceTimersByTime(1000);
  socket.becomes('close');
  company.tell(40);
  jest.advanceTimersByTime(1000);
  socket.becomes('open');
  expect(socket.sent).toEqual(['{"frame":3}', '{"frame":39}', '{"frame":40}']);
  expect(openings).toEqual([true, false]);
});

it('hears of changes and of the others, of whom none are known while it is broken', async () => {
  const { socket, others, changes } = await opened();
  socket.becomes('open');
  const changed = { table: 'charts', id: 'b', revision: 7 } as const;
  socket.hears({ changed });
  socket.hears({ others: [{ id: '1', name: 'Tom', frame: 4 }] });
  expect(changes).toEqual([changed]);
  expect(others.getState().others).toHaveLength(1);
  socket.becomes('close');
  expect(others.getState().others).toEqual([]);
});

it('opens at once when somebody has signed in, and not after it was closed', async () => {
  const { socket, company } = await opened();
  door.setState({ isShut: true });
  door.setState({ isShut: false });
  expect(socket.reconnects).toBe(1);
  company.close();
  door.setState({ isShut: true });
  door.setState({ isShut: false });
  expect([socket.reconnects, socket.readyState]).toEqual([1, 3]);
});

it('closes a socket that comes when nobody wants it any more', async () => {
  const socket = new StandInSocket();
  const coming = opened(socket);
  (await coming).company.close();
  expect(socket.readyState).toBe(3);
});
