import { Button, Input } from 'antd';
import { useEffect, useState, type ReactElement } from 'react';
import { api } from '../api/client';
import { useAccess } from '../api/access-store';
import { troubleOf, type Trouble } from '../store/drawings-store';
import { Notice } from '../controls/notice';

/** Asks who somebody is: by a sign-in service, by the token of the server, or by either. */
export function SignInPage(): ReactElement {
  const { session, load } = useAccess();
  useEffect(() => void load(), [load]);
  const ways = session?.ways ?? [];
  if (!ways.includes('open-id')) return <TokenForm />;
  const here = `${location.pathname}${location.search}${location.hash}`;
  return (
    <Notice title="Sign in to see the drawings" isPage>
      <p>You sign in at your organization’s service, and come back to this page.</p>
      <p>
        <Button type="primary" href={`/api/session/sign-in?to=${encodeURIComponent(here)}`} autoFocus>
          Sign in
        </Button>
      </p>
      {ways.includes('token') && (
        <details>
          <summary>With the server’s access token</summary>
          <TokenField />
        </details>
      )}
    </Notice>
  );
}

function TokenForm(): ReactElement {
  return (
    <Notice title="This server asks for its access token" isPage>
      <p>It is the secret that the server was started with. This browser then remembers it for thirty days.</p>
      <TokenField />
    </Notice>
  );
}

function TokenField(): ReactElement {
  const { setNeeded, load } = useAccess();
  const [token, setToken] = useState('');
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const send = (): void => {
    api
      .openSession(token)
      .then(load)
      .then(
        () => setNeeded(false),
        (error: unknown) => setTrouble(troubleOf(error)),
      );
  };
  return (
    <>
      <form
        className="token-form"
        onSubmit={(event) => {
          event.preventDefault();
          send();
        }}
      >
        <Input.Password
          autoFocus
          aria-label="Access token"
          value={token}
          onChange={(event) => setToken(event.target.value)}
        />
        <Button type="primary" htmlType="submit" disabled={token === ''}>
          Enter
        </Button>
      </form>
      {trouble && (
        <p role="alert">
          {trouble.title}. {trouble.hint}
        </p>
      )}
    </>
  );
}
