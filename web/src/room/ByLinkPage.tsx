/** Where a link to look or to shoot leads first: it lets the device in, and goes on. */
import { useMutation } from '@tanstack/react-query';
import { useEffect, useEffectEvent, type ReactElement } from 'react';
import { useLocation, useSearchParams } from 'react-router';
import { sendJson, sentenceOf } from '../api/http.js';
import { AlonePage } from '../ui/AlonePage.js';

/** A place on this server, never elsewhere. */
const placeOf = (to: string | null): string => (to !== null && /^\/(?![/\\])/.test(to) ? to : '/');

export function ByLinkPage(): ReactElement {
  const [params] = useSearchParams();
  // Behind the hash, so that it is in no log and goes to nobody else.
  const code = useLocation().hash.slice(1);
  const to = placeOf(params.get('to'));
  const { mutate, error } = useMutation({
    mutationFn: () => sendJson('POST', '/room/links/entered', { code }),
    onSuccess: () => window.location.replace(to),
  });
  const enter = useEffectEvent(() => mutate());
  useEffect(() => enter(), []);
  if (error) return <AlonePage title="This link does not lead in" text={sentenceOf(error)} />;
  return <AlonePage busy title="Coming in…" />;
}
