import { Button, Input, Modal, QRCode, Spin } from 'antd';
import { Copy } from 'lucide-react';
import { useEffect, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { Parts } from '../actions/action';
import { api } from '../api/client';
import { linkedNow, longLink, shortLink, writeLink } from '../session/link';
import type { Session } from '../session/session';
import { troubleOf } from '../store/drawings-store';
import { useNotes } from '../store/notes-store';
import { FilesOut } from './files-out';
import './share.css';

interface ShareProps {
  readonly session: Session;
  readonly target: Parts<'pane' | 'drawing' | 'marks' | 'ui'>;
}

/** Links to what all panes show now. */
export function SharePanel({ session, target }: ShareProps): ReactElement {
  const isOpen = useStore(target.ui, (state) => state.panel === 'share');
  return (
    <Modal
      open={isOpen}
      onCancel={() => target.ui.getState().set({ panel: null })}
      title="Share what the panes show"
      footer={null}
      width={660}
      centered
      destroyOnHidden
    >
      <Links session={session} />
      <FilesOut target={target} />
    </Modal>
  );
}

function Links({ session }: Pick<ShareProps, 'session'>): ReactElement {
  const [links, setLinks] = useState<{ readonly short: string | null; readonly long: string; readonly why: string }>();
  useEffect(() => {
    let isCurrent = true;
    const linked = linkedNow(session);
    const short = api.keepLink(linked).then(
      ({ id }) => ({ short: shortLink(id), why: '' }),
      (error: unknown) => ({ short: null, why: troubleOf(error).title }),
    );
    void Promise.all([short, writeLink(linked)]).then(([told, written]) => {
      if (isCurrent) setLinks({ ...told, long: longLink(written) });
    });
    return () => {
      isCurrent = false;
    };
  }, [session]);
  if (!links) return <Spin />;
  const { short, long, why } = links;
  return (
    <div className="share">
      <div className="share-links">
        <LinkField
          name="Short link"
          sentence="Opens these panes as they are now, in any browser that reaches this server."
          value={short}
          why={why}
        />
        <LinkField
          name="Long link"
          sentence="Holds everything itself: opens on any server that has the drawings, also where the short one isn’t known."
          value={long}
          why=""
        />
      </div>
      {short !== null && (
        <figure className="share-code">
          <div role="img" aria-label="The short link as a QR code">
            <div aria-hidden>
              <QRCode value={short} size={168} color="#16324a" bgColor="#fffdf8" bordered={false} />
            </div>
          </div>
          <figcaption className="muted">Scan to open</figcaption>
        </figure>
      )}
    </div>
  );
}

interface LinkFieldProps {
  readonly name: string;
  readonly sentence: string;
  readonly value: string | null;
  /** Why there is none. */
  readonly why: string;
}

function LinkField({ name, sentence, value, why }: LinkFieldProps): ReactElement {
  const copy = (): void => {
    if (value === null) return;
    const { tell } = useNotes.getState();
    navigator.clipboard.writeText(value).then(
      () => tell('done', 'The link is copied'),
      () => tell('failed', 'The browser doesn’t let the link be copied: mark it and copy it by hand.'),
    );
  };
  return (
    <section aria-label={name}>
      <h2>{name}</h2>
      {value === null ? (
        <p role="alert">There is none now: {why}.</p>
      ) : (
        <div className="share-row">
          <Input readOnly aria-label={name} value={value} onFocus={(event) => event.target.select()} />
          <Button icon={<Copy size={14} aria-hidden />} onClick={copy}>
            Copy
          </Button>
        </div>
      )}
      <p className="muted">{sentence}</p>
    </section>
  );
}
