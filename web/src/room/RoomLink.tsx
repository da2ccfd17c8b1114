/** The way to the room, for those who signed in to it. */
import type { ReactElement } from 'react';
import { Link } from 'react-router';
import { useRoom } from './useRoom.js';

export function RoomLink(): ReactElement | null {
  const { data } = useRoom();
  if (!data?.isRoom || !data.me || data.me.isGuest) return null;
  return (
    <Link to="/room" className="text-[14px] text-ink-soft underline underline-offset-2 hover:text-ink">
      {`The room · ${data.me.name}`}
    </Link>
  );
}
