import { ChevronDown, ChevronUp, Search, X } from 'lucide-react';
import { useMemo, useRef, useState, type KeyboardEvent, type ReactElement } from 'react';
import { useStore } from 'zustand';
import { queryExamples } from '@gull-pane/core/find/query';
import type { ActionTarget, Parts } from '../actions/action';
import { focusActivePane } from '../input/focus-pane';
import { KeyCaps } from '../actions/action-tip';
import { shownKey, useBindings } from '../actions/bindings';
import { findAction, nextHitAction, previousHitAction } from '../actions/find-actions';
import { grouped } from '../basics/figures';
import type { Answer, answersTo } from './answers';
import { MOST_TEXTS } from './most-texts';
import './find.css';

/** What answers, from the first time that the field has the focus. */
const loadAnswers = async (): Promise<typeof answersTo> => (await import('./answers')).answersTo;

/** Goes by name: one field over texts, layers, places, scales, bearings and actions. */
export function FindField({ target }: { readonly target: ActionTarget }): ReactElement {
  const { finds } = target;
  const typed = useStore(finds, (state) => state.typed);
  const query = useStore(finds, (state) => state.query);
  const texts = useStore(finds, (state) => state.texts);
  const [isOpen, setOpen] = useState(false);
  const [chosen, setChosen] = useState(0);
  const field = useRef<HTMLInputElement>(null);
  const bindings = useBindings();
  const [answer, setAnswer] = useState<typeof answersTo | null>(null);
  const answers = useMemo(
    () => answer?.(target, query, typed, texts ?? []) ?? [],
    [answer, target, query, typed, texts],
  );
  const key = shownKey(bindings[findAction.id] ?? []);
  const choice = Math.min(chosen, answers.length - 1);

  const leave = (): void => {
    setOpen(false);
    field.current?.blur();
    focusActivePane();
  };
  /** What was chosen is done, and the keys belong to the pane again. */
  const go = (answer: Answer | undefined): void => {
    if (!answer) return;
    leave();
    answer.run();
    if (answer.group === 'Go' || answer.group === 'Actions') finds.getState().commandDone();
  };
  const firstOf = (answersNow: typeof answersTo): Answer | undefined => {
    const own = finds.getState();
    return answersNow(target, own.query, own.typed, own.texts ?? [])[0];
  };
  const press = (event: KeyboardEvent): void => {
    const steps: Readonly<Record<string, number>> = { ArrowDown: 1, ArrowUp: -1 };
    const step = steps[event.key];
    if (step !== undefined) {
      event.preventDefault();
      setOpen(true);
      setChosen((Math.max(choice, 0) + (isOpen ? step : 0) + answers.length) % Math.max(answers.length, 1));
    } else if (event.key === 'Enter') {
      event.preventDefault();
      if (!isOpen && finds.getState().hits.length > 0) finds.getState().step(event.shiftKey ? -1 : 1);
      else if (answer) go(answers[choice]);
      else void loadAnswers().then((answersNow) => go(firstOf(answersNow)));
    } else if (event.key === 'Escape') {
      event.preventDefault();
      event.stopPropagation();
      if (isOpen && typed !== '') setOpen(false);
      else leave();
    }
  };
  return (
    <div className="find" role="search">
      <Search size={16} aria-hidden />
      <input
        ref={field}
        id="find-field"
        className="find-field"
        role="combobox"
        aria-label="Find"
        aria-expanded={isOpen}
        aria-controls="find-list"
        aria-autocomplete="list"
        aria-activedescendant={isOpen && choice >= 0 ? `find-${choice}` : undefined}
        placeholder="Find a text, a layer, a place, an action"
        autoComplete="off"
        spellCheck={false}
        value={typed}
        onFocus={() => {
          setOpen(true);
          if (!answer) void loadAnswers().then((loaded) => setAnswer(() => loaded));
        }}
        onBlur={() => setOpen(false)}
        onChange={(event) => {
          finds.getState().type(event.target.value);
          setChosen(0);
          setOpen(true);
        }}
        onKeyDown={press}
      />
      {typed === '' && key !== undefined && <KeyCaps keyName={key} />}
      <Hits target={target} />
      {isOpen && (
        <div className="find-panel" onMouseDown={(event) => event.preventDefault()}>
          <AnswerList answers={answers} choice={choice} onChoose={(answer) => go(answer)} />
          <Hint target={target} hasAnswers={answers.length > 0} />
        </div>
      )}
    </div>
  );
}

interface AnswerListProps {
  readonly answers: readonly Answer[];
  readonly choice: number;
  onChoose(answer: Answer): void;
}

function AnswerList({ answers, choice, onChoose }: AnswerListProps): ReactElement {
  const bindings = useBindings();
  return (
    <ul id="find-list" role="listbox" aria-label="Found" className="find-list">
      {answers.map((answer, index) => {
        const key = answer.actionId === undefined ? undefined : shownKey(bindings[answer.actionId] ?? []);
        return (
          <li
            key={answer.id}
            id={`find-${index}`}
            role="option"
            aria-selected={index === choice}
            className="find-row"
            onClick={() => onChoose(answer)}
          >
            <answer.icon size={16} aria-hidden />
            <span className="find-title">{answer.title}</span>
            <span className="find-detail muted">{answer.detail}</span>
            {key !== undefined && <KeyCaps keyName={key} />}
            {(index === 0 || answers[index - 1]!.group !== answer.group) && (
              <span className="find-group muted">{answer.group}</span>
            )}
          </li>
        );
      })}
    </ul>
  );
}

/** What can be said, and what isn't understood. */
function Hint({ target, hasAnswers }: { readonly target: Parts<'finds'>; readonly hasAnswers: boolean }): ReactElement {
  const { query, texts, trouble, typed } = useStore(target.finds);
  if (query.kind === 'nothing') {
    return (
      <dl className="find-hint">
        {queryExamples.map(([example, meaning]) => (
          <div key={example}>
            <dt className="figures">{example}</dt>
            <dd>{meaning}</dd>
          </div>
        ))}
      </dl>
    );
  }
  if (trouble !== null) {
    return (
      <p className="find-hint" role="alert">
        The drawing’s texts can’t be searched ({trouble}). If it comes from an older version, import its file anew.
      </p>
    );
  }
  if (texts === null) return <p className="find-hint muted">Looking …</p>;
  if (query.kind === 'unclear') return <p className="find-hint">For a command, {query.expected} is understood.</p>;
  const all =
    texts.length > MOST_TEXTS
      ? `${grouped(texts.length)} texts in all; the arrows at the field walk through them.`
      : '';
  if (texts.length > 0 && texts.every(({ isSimilar }) => isSimilar))
    return (
      <p className="find-hint" role="status">
        No text has “{typed.trim()}” in it. The texts above are similar. {all}
      </p>
    );
  if (hasAnswers && all !== '') return <p className="find-hint muted">{all}</p>;
  if (hasAnswers) return <></>;
  return (
    <p className="find-hint" role="status">
      Nothing is called “{typed.trim()}”. Texts, layers and actions are found by any part of their names; places as{' '}
      <span className="figures">E, N</span>, scales as <span className="figures">1:200</span>.
    </p>
  );
}

/** Where one is among the hits, and the way to the next. */
function Hits({ target: { finds } }: { readonly target: Parts<'finds'> }): ReactElement | null {
  const count = useStore(finds, (state) => state.hits.length);
  const current = useStore(finds, (state) => state.current);
  if (count === 0) return null;
  return (
    <span className="find-hits">
      <span className="figures" role="status" aria-label="Hits">
        {grouped(current + 1)} of {grouped(count)}
      </span>
      {[
        { action: previousHitAction, icon: ChevronUp, by: -1 as const },
        { action: nextHitAction, icon: ChevronDown, by: 1 as const },
      ].map(({ action, icon: Icon, by }) => (
        <button
          key={action.id}
          type="button"
          className="icon-button"
          aria-label={action.name}
          onClick={() => finds.getState().step(by)}
        >
          <Icon size={16} aria-hidden />
        </button>
      ))}
      <button
        type="button"
        className="icon-button"
        aria-label="Put the hits away"
        onClick={() => finds.getState().clear()}
      >
        <X size={16} aria-hidden />
      </button>
    </span>
  );
}
