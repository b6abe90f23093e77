import { Button } from 'antd';
import type { ReactElement } from 'react';
import type { Role } from '@gull-pane/protocol/roles';
import { send } from '../api/client';
import { useAccess } from '../api/access-store';

const may: Readonly<Record<Role, string>> = {
  look: 'may look',
  mark: 'may look and mark',
  manage: 'may manage drawings',
};

/** Who has signed in, what they may do, and the way out. */
export function SignedIn(): ReactElement | null {
  const person = useAccess(({ session }) => session?.person);
  if (!person?.name) return null;
  const signOut = (): void => {
    send('/api/session', { method: 'DELETE' }).then(
      () => location.reload(),
      () => undefined, // the page says that the server can't be reached
    );
  };
  return (
    <p className="signed-in">
      <span>
        {person.name}, <span className="muted">{may[person.role]}</span>
      </span>
      <Button size="small" onClick={signOut}>
        Sign out
      </Button>
    </p>
  );
}
