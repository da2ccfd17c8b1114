/** Signing in to a server that a room shares: by a name of one's own, and the passphrase. */
import { useMutation, useQueryClient } from '@tanstack/react-query';
import { useId, useState, type ReactElement } from 'react';
import { door } from '../api/door.js';
import { sendJson, sentenceOf } from '../api/http.js';
import { Button } from '../ui/Button.js';
import { keep, maybeKept } from '../ui/browserStore.js';
import { Modal } from '../ui/Modal.js';

/** What this browser remembers of who sits before it. */
const NAME = 'zest-jaw who';

function SignInForm(): ReactElement {
  const client = useQueryClient();
  const [name, setName] = useState(() => maybeKept(NAME) ?? '');
  const [passphrase, setPassphrase] = useState('');
  const said = useId();
  const enter = useMutation({
    mutationFn: () => sendJson('POST', '/room/sessions', { name, passphrase }),
    onSuccess: async () => {
      keep(NAME, name.trim());
      door.setState({ isShut: false });
      // Whatever was asked for before was refused.
      await client.invalidateQueries();
    },
    onError: () => setPassphrase(''),
  });
  const isWhole = name.trim() !== '' && passphrase !== '';
  return (
    <form
      className="mt-4 flex flex-col gap-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (isWhole && !enter.isPending) enter.mutate();
      }}
    >
      <label className="text-[14px] text-ink-soft">
        What the others call you
        <input
          className="field mt-0.5 w-full"
          autoFocus={name === ''}
          autoComplete="nickname"
          maxLength={40}
          value={name}
          onChange={({ target }) => setName(target.value)}
        />
      </label>
      <label className="text-[14px] text-ink-soft">
        The passphrase of the room
        <input
          className="field mt-0.5 w-full"
          type="password"
          autoFocus={name !== ''}
          autoComplete="current-password"
          value={passphrase}
          aria-describedby={enter.isError ? said : undefined}
          aria-invalid={enter.isError}
          onChange={({ target }) => setPassphrase(target.value)}
        />
      </label>
      {enter.isError && (
        <p id={said} role="alert" className="text-bad">
          {sentenceOf(enter.error)}
        </p>
      )}
      <Button type="submit" weight="main" className="mt-1 self-start px-6!" disabled={!isWhole || enter.isPending}>
        {enter.isPending ? 'Signing in…' : 'Come in'}
      </Button>
    </form>
  );
}

/** In place of every page, for whoever has not signed in yet. */
export function SignInPage(): ReactElement {
  return (
    <main className="grid h-full place-items-center overflow-y-auto p-6">
      <div className="w-full max-w-[420px] rounded-2xl border border-rule bg-sheet p-8">
        <p className="name flex items-center gap-2.5 text-[20px]">
          <img src="/mark.svg" alt="" width={28} height={28} /> Zest Jaw
        </p>
        <h1 className="name mt-5 text-[26px] leading-tight">This one is shared by a room</h1>
        <p className="mt-1 text-ink-soft">Who started it knows the passphrase. Your name stands beside what you change.</p>
        <SignInForm />
      </div>
    </main>
  );
}

/** Over the page, for whoever was shown out, or had to sign in anew. */
export function SignInDialog(): ReactElement {
  return (
    <Modal
      open
      title="Sign in again"
      description="You were signed out, or the passphrase was changed. What you have not saved is kept here, and goes in once you are back."
      onClose={() => undefined}
    >
      <SignInForm />
    </Modal>
  );
}
