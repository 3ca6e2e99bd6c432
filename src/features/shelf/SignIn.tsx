'use client';
import { type FormEvent, useState } from 'react';
import { signIn } from '@/features/sync/api';
import { reasonOf } from '@/features/sync/reasonOf';
import { Button } from '@/ui/Button';
import { Field } from '@/ui/Field';
import { SafePage } from '@/ui/SafePage';

/** The page that was asked for first: one of this program's own, else the shelf. */
function wantedPage(): string {
  const to = new URLSearchParams(window.location.search).get('to') ?? '/';
  return new URL(to, window.location.origin).origin === window.location.origin && to.startsWith('/') ? to : '/';
}

/** Asks for the passphrase of a Lime Tick that is reached from other machines. */
export function SignIn() {
  const [passphrase, setPassphrase] = useState('');
  const [isBusy, setBusy] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    setBusy(true);
    setTrouble(null);
    signIn(passphrase).then(
      () => window.location.assign(wantedPage()),
      (error: unknown) => {
        setBusy(false);
        setPassphrase('');
        setTrouble(reasonOf(error));
      },
    );
  };
  return (
    <SafePage title="Lime Tick">
      <form onSubmit={submit} className="w-72 space-y-3 text-left">
        <Field
          label="Passphrase"
          type="password"
          autoComplete="current-password"
          value={passphrase}
          onChange={setPassphrase}
          wrong={trouble ?? undefined}
          autoFocus
          required
        />
        <Button kind="go" type="submit" disabled={isBusy || passphrase === ''} className="w-full justify-center">
          {isBusy ? 'Signing in …' : 'Sign in'}
        </Button>
      </form>
    </SafePage>
  );
}
