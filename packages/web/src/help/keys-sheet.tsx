import { Button, Input, Modal, type InputRef } from 'antd';
import { Printer } from 'lucide-react';
import { useRef, useState, type ReactElement, type RefObject } from 'react';
import { useStore } from 'zustand';
import type { Input as HandInput } from '@gull-pane/core/intent/inputs';
import { profileOf } from '@gull-pane/core/intent/profiles';
import type { Parts } from '../actions/action';
import { KeyCaps } from '../actions/action-tip';
import { useBindings } from '../actions/bindings';
import { usePreferences } from '../store/preferences-store';
import { InputText } from '../tools/input-text';
import { actGroups, grammar } from './act-rows';
import { wordsOfInput } from './input-words';
import './help.css';

/** All keys and gestures, made from the bindings in use: to search and to print. */
export function KeysSheet({ target }: { readonly target: Parts<'ui'> }): ReactElement {
  const isOpen = useStore(target.ui, (state) => state.panel === 'keys');
  const field = useRef<InputRef>(null);
  const close = (): void => target.ui.getState().set({ panel: null });
  return (
    <Modal
      open={isOpen}
      onCancel={close}
      title="Keys and gestures"
      footer={null}
      width={980}
      centered
      destroyOnHidden
      className="keys-sheet"
      afterOpenChange={(open) => {
        if (open) field.current?.focus();
      }}
      wrapClassName="printable"
    >
      <Sheet field={field} />
    </Modal>
  );
}

/** Keys of one cap, `+` with and without Shift, are told once. */
const toldOnce = (inputs: readonly HandInput[]): HandInput[] => {
  const words = inputs.map(wordsOfInput);
  return inputs.filter((_, index) => words.indexOf(words[index]!) === index);
};

function Sheet({ field }: { readonly field: RefObject<InputRef | null> }): ReactElement {
  const [sought, setSought] = useState('');
  const profile = usePreferences((state) => state.profile);
  const bindings = useBindings();
  const words = sought.trim().toLowerCase();
  const groups = actGroups
    .map(({ name, rows }) => ({
      name,
      rows: rows.filter((row) => {
        const inputs = bindings[row.id] ?? [];
        const text = [row.name, row.sentence, ...inputs.map(wordsOfInput)].join(' ').toLowerCase();
        return inputs.length > 0 && text.includes(words);
      }),
    }))
    .filter(({ rows }) => rows.length > 0);
  return (
    <>
      <div className="sheet-head">
        <Input
          allowClear
          ref={field}
          aria-label="Search keys and gestures"
          placeholder="Search: fit, wheel, Shift …"
          value={sought}
          onChange={(event) => setSought(event.target.value)}
        />
        <span className="muted">Hands: {profile === 'own' ? 'own' : profileOf(profile).name}</span>
        <Button icon={<Printer size={16} aria-hidden />} onClick={() => window.print()}>
          Print
        </Button>
      </div>
      <div className="sheet-scroll" tabIndex={0} role="region" aria-label="All keys and gestures">
        <div className="sheet-columns">
          {groups.map(({ name, rows }) => (
            <section key={name} aria-label={name}>
              <h2>{name}</h2>
              <dl>
                {rows.map((row) => (
                  <div key={row.id}>
                    <dt title={row.sentence}>{row.name}</dt>
                    <dd>
                      {toldOnce(bindings[row.id] ?? []).map((input) => (
                        <InputText key={input} input={input} />
                      ))}
                    </dd>
                  </div>
                ))}
              </dl>
            </section>
          ))}
          {words === '' && (
            <section aria-label="In every tool">
              <h2>In every tool</h2>
              {grammar.map(([keys, does]) => (
                <p key={does}>
                  {keys.map((key) => (
                    <KeyCaps key={key} keyName={key} />
                  ))}{' '}
                  {does}
                </p>
              ))}
            </section>
          )}
          {groups.length === 0 && <p>Nothing is called “{sought}”.</p>}
        </div>
      </div>
    </>
  );
}
