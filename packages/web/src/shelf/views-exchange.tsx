import { Alert, Button, Modal } from 'antd';
import { ArrowDownUp } from 'lucide-react';
import { useRef, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { ActionTarget } from '../actions/action';
import { MenuButton } from '../controls/menu-button';

/** The formats by their ids in the exchange, told here so that its code comes only when it is needed. */
const formats = [
  { id: 'json', label: 'JSON, everything' },
  { id: 'bcf-3.0', label: 'BCF 3.0' },
  { id: 'bcf-2.1', label: 'BCF 2.1' },
  { id: 'gltf', label: 'glTF cameras' },
  { id: 'csv', label: 'CSV table' },
] as const;

interface Outcome {
  readonly title: string;
  readonly told: readonly string[];
  readonly isFailure: boolean;
}

/** Views go out as files and come in from them; what a format can't tell is said. */
export function ViewsExchange({ target }: { readonly target: ActionTarget }): ReactElement {
  const count = useStore(target.cards, (state) => state.cards?.length ?? 0);
  const [outcome, setOutcome] = useState<Outcome | null>(null);
  const chooser = useRef<HTMLInputElement>(null);
  const orTell = async (what: string, doing: () => Promise<Outcome | null>): Promise<void> => {
    try {
      setOutcome(await doing());
    } catch (error) {
      const hint = error instanceof Error && 'hint' in error ? String(error.hint) : '';
      setOutcome({
        ...{ title: what, isFailure: true },
        told: [error instanceof Error ? error.message : String(error), hint],
      });
    }
  };
  const write = (id: string): Promise<void> =>
    orTell('The views can’t be written', async () => {
      const { writeViewsOut } = await import('../session/exchange-views');
      const losses = await writeViewsOut(target, id);
      return losses.length > 0
        ? { title: 'Written; this format can’t tell everything', told: losses, isFailure: false }
        : null;
    });
  const read = (file: File): Promise<void> =>
    orTell(`No views were taken from “${file.name}”`, async () => {
      const { readViewsIn } = await import('../session/exchange-views');
      const { count: taken, losses } = await readViewsIn(target, file);
      return {
        title: taken === 1 ? '1 view has come in' : `${taken} views have come in`,
        told: losses,
        isFailure: false,
      };
    });
  return (
    <>
      <MenuButton
        className="icon-button"
        label="Views in and out"
        tip={{
          name: 'Views in and out',
          sentence: 'Writes the views to a file that other programs read, or takes over those of such a file.',
          placement: 'bottom',
        }}
        items={[
          { key: 'in', label: 'Read views in …', onClick: () => chooser.current?.click() },
          {
            ...{ key: 'out', type: 'group' as const, label: 'Write all views out as' },
            children: formats.map(({ id, label }) => ({
              ...{ key: id, label, disabled: count === 0 },
              onClick: () => void write(id),
            })),
          },
        ]}
      >
        <ArrowDownUp size={15} aria-hidden />
      </MenuButton>
      <input
        ref={chooser}
        type="file"
        hidden
        aria-label="File of views"
        accept=".json,.bcf,.bcfzip,.gltf,.csv"
        onChange={(event) => {
          const file = event.target.files?.[0];
          event.target.value = '';
          if (file) void read(file);
        }}
      />
      <Modal
        open={outcome !== null}
        title={outcome?.title}
        width={460}
        onCancel={() => setOutcome(null)}
        footer={
          <Button type="primary" onClick={() => setOutcome(null)}>
            Good
          </Button>
        }
      >
        {outcome?.isFailure ? (
          <Alert type="error" title={outcome.told[0]} description={outcome.told[1]} showIcon />
        ) : (
          <ul className="exchange-told">
            {(outcome?.told ?? []).map((line) => (
              <li key={line}>{line}</li>
            ))}
          </ul>
        )}
      </Modal>
    </>
  );
}
