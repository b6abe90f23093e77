import { Button, Input } from 'antd';
import { useState, type ReactElement } from 'react';
import { api } from '../api/client';
import { useAccess } from '../api/access-store';
import { troubleOf, type Trouble } from '../store/drawings-store';
import { Notice } from '../controls/notice';

/** Asks for the token of a server that can be reached from other machines. */
export function TokenPage(): ReactElement {
  const setNeeded = useAccess((access) => access.setNeeded);
  const [token, setToken] = useState('');
  const [trouble, setTrouble] = useState<Trouble | null>(null);
  const send = (): void => {
    api.openSession(token).then(
      () => setNeeded(false),
      (error: unknown) => setTrouble(troubleOf(error)),
    );
  };
  return (
    <Notice title="This server asks for its access token" isPage>
      <p>It is the secret that the server was started with. This browser then remembers it for thirty days.</p>
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
    </Notice>
  );
}
