import { Alert, Button, Modal } from 'antd';
import { ArrowDownUp } from 'lucide-react';
import { useRef, useState, type ReactElement } from 'react';
import { useStore } from 'zustand';
import type { Parts } from '../actions/action';
import { cardLike, type OfKnown, type TakenView } from '../store/cards-store';
import { MenuButton } from '../controls/menu-button';

/** The formats by their ids in the exchange, told here so that its code comes only when it is needed. */
const formats = [
  { id: 'json', label: 'JSON, everything' },
  { id: 'bcf-3.0', label: 'BCF 3.0' },
  { id: 'bcf-2.1', label: 'BCF 2.1' },
  { id: 'gltf', label: 'glTF cameras' },
  { id: 'csv', label: 'CSV table' },
] as const;

/** Views of a file, some of which are here already. */
interface ReadIn {
  readonly views: readonly TakenView[];
  readonly losses: readonly string[];
  readonly known: number;
}

interface Outcome {
  readonly title: string;
  readonly told: readonly string[];
  readonly isFailure: boolean;
}

function knownText(known: number, all: number): string {
  if (all === 1) return 'This view is here already';
  if (known === all) return `All ${all} views are here already`;
  return `${known} of ${all} views ${known === 1 ? 'is' : 'are'} here already`;
}

/** Views go out as files and come in from them; what a format can't tell is said. */
export function ViewsExchange({ target }: { readonly target: Parts<'pane' | 'drawing' | 'cards'> }): ReactElement {
  const count = useStore(target.cards, (state) => state.cards?.length ?? 0);
  const [outcome, setOutcome] = useState<Outcome | null>(null);
  const [question, setQuestion] = useState<ReadIn | null>(null);
  const chooser = useRef<HTMLInputElement>(null);
  const orTell = async (what: string, doing: () => Promise<Outcome | null>): Promise<void> => {
    try {
      setOutcome(await doing());
    } catch (error) {
      const hint = error instanceof Error && 'hint' in error ? String(error.hint) : '';
      setOutcome({
        title: what,
        isFailure: true,
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
      const { views, losses } = await readViewsIn(target, file);
      const cards = target.cards.getState().cards ?? [];
      const known = views.filter((view) => cardLike(view, cards)).length;
      if (known === 0) return keep({ views, losses, known }, 'copy');
      setQuestion({ views, losses, known });
      return null;
    });
  const answer = (asked: ReadIn, ofKnown: OfKnown): Promise<void> => {
    setQuestion(null);
    return orTell('The views can’t be kept', () => keep(asked, ofKnown));
  };
  const keep = async ({ views, losses, known }: ReadIn, ofKnown: OfKnown): Promise<Outcome> => {
    await target.cards.getState().keepAll(views, ofKnown);
    const taken = ofKnown === 'skip' ? views.length - known : views.length;
    return {
      title: taken === 1 ? '1 view has come in' : `${taken} views have come in`,
      told: losses,
      isFailure: false,
    };
  };
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
            key: 'out',
            type: 'group' as const,
            label: 'Write all views out as',
            children: formats.map(({ id, label }) => ({
              key: id,
              label,
              disabled: count === 0,
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
        open={question !== null}
        title={question && knownText(question.known, question.views.length)}
        width={460}
        onCancel={() => setQuestion(null)}
        footer={
          question && (
            <>
              <Button onClick={() => void answer(question, 'copy')}>Keep copies</Button>
              <Button onClick={() => void answer(question, 'skip')}>Skip them</Button>
              <Button type="primary" onClick={() => void answer(question, 'update')}>
                Update them
              </Button>
            </>
          )
        }
      >
        <p>They have the same name in the same group. Those that are new come in whatever you choose.</p>
      </Modal>
      <Modal
        open={outcome !== null}
        title={outcome?.title}
        width={460}
        onCancel={() => setOutcome(null)}
        footer={
          <Button type="primary" onClick={() => setOutcome(null)}>
            OK
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
