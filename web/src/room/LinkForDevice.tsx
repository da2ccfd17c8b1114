/** Makes a link by which another device comes to this page, to look and to shoot; only where a room shares the server. */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { Popover } from 'radix-ui';
import { useRef, useState, type ReactElement } from 'react';
import { sendJson, sentenceOf } from '../api/http.js';
import { Button } from '../ui/Button.js';
import { useRoom } from './useRoom.js';

interface LinkForDeviceProps {
  /** What the link is called in the room. */
  readonly name: string;
  readonly className?: string;
}

export function LinkForDevice({ name, className }: LinkForDeviceProps): ReactElement | null {
  const client = useQueryClient();
  const { data } = useRoom();
  const [isCopied, setCopied] = useState(false);
  const field = useRef<HTMLInputElement>(null);
  const make = useMutation({
    mutationFn: () => sendJson<{ code: string }>('POST', '/room/links', { name: name.slice(0, 40) }),
    onSuccess: () => client.invalidateQueries({ queryKey: ['room', 'links'] }),
  });
  const copy = async (text: string): Promise<void> => {
    try {
      await navigator.clipboard.writeText(text);
      setCopied(true);
    } catch {
      // The browser does not let the page copy: marked, it is copied by hand.
      field.current?.focus();
    }
  };
  if (!data?.isRoom || !data.me || data.me.isGuest) return null;
  const { origin, pathname, search } = window.location;
  const link = make.data && `${origin}/in?to=${encodeURIComponent(pathname + search)}#${make.data.code}`;
  return (
    <Popover.Root
      onOpenChange={(isOpen) => {
        setCopied(false);
        if (isOpen && !make.data) make.mutate();
      }}
    >
      <Popover.Trigger className={className}>Link for another device</Popover.Trigger>
      <Popover.Portal>
        <Popover.Content
          align="end"
          sideOffset={8}
          aria-label="Link for another device"
          className="z-40 flex w-[400px] flex-col gap-3 rounded-xl border border-rule bg-lift p-4 text-[14px] text-ink"
        >
          <p>Whoever opens this link looks, shoots and leaves remarks, without the passphrase. It is told this once.</p>
          {make.isPending && <p role="status">It is made…</p>}
          {make.isError && <p className="text-bad">{sentenceOf(make.error)}</p>}
          {link !== undefined && (
            <>
              <input
                ref={field}
                className="field w-full"
                readOnly
                aria-label="The link"
                value={link}
                onFocus={({ target }) => target.select()}
              />
              <Button className="self-start" onClick={() => void copy(link)}>
                {isCopied ? 'Copied' : 'Copy it'}
              </Button>
            </>
          )}
        </Popover.Content>
      </Popover.Portal>
    </Popover.Root>
  );
}
