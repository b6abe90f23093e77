import { Input } from 'antd';
import { useId, useState, type KeyboardEvent, type ReactElement } from 'react';
import { readNumber, type Reading } from '@gull-pane/core/typed/typed-number';
import { readDecimals } from '../basics/decimals';
import { exactText } from '../basics/figures';
import './figure-field.css';

/** Shift makes an arrow key step ten times as far. */
const FAR = 10;

interface FigureFieldProps {
  readonly label: string;
  readonly value: number | null;
  /** Called with the value on Enter, on blur, and on each arrow-key step. */
  readonly onSet: (value: number) => void;
  /** How a text is read; by default as a number without a unit. */
  readonly read?: (text: string) => Reading<number>;
  readonly write?: (value: number) => string;
  readonly min?: number;
  readonly max?: number;
  /** So far the arrow keys step. */
  readonly step?: number;
  /** The unit of what is shown. */
  readonly suffix?: string;
  readonly placeholder?: string;
  readonly autoFocus?: boolean;
  readonly disabled?: boolean;
  readonly className?: string;
}

/**
 * A number field that accepts numbers as people write them. It shows the interpreted value before it is applied. Input
 * that can't be read, or is out of range, stays in the field with a message saying why.
 */
export function FigureField(props: FigureFieldProps): ReactElement {
  const { label, value, onSet, read = readNumber, write = exactText, step = 1, suffix } = props;
  const { min = -Infinity, max = Infinity } = props;
  const [typed, setTyped] = useState<string | null>(null);
  const id = useId();
  const shown = value === null ? '' : write(value);
  const meant =
    typed === null || typed.trim() === '' || typed === shown
      ? null
      : within(readDecimals(typed, read), min, max, write);
  const trouble = meant && 'trouble' in meant ? meant.trouble : null;
  const told = meant && 'value' in meant && write(meant.value) !== typed?.trim() ? write(meant.value) : null;
  const unit = suffix === undefined || suffix === '°' ? (suffix ?? '') : ` ${suffix}`;
  const hold = (): void => {
    if (trouble !== null) return;
    setTyped(null);
    if (meant && 'value' in meant && meant.value !== value) onSet(meant.value);
  };
  const onKeyDown = (event: KeyboardEvent<HTMLInputElement>): void => {
    if (event.key === 'Escape' && typed !== null) {
      event.stopPropagation();
      setTyped(null);
    } else if (event.key === 'Enter') {
      event.stopPropagation();
      if (trouble === null) event.currentTarget.blur(); // that holds it, and the keys belong to the pane again
    } else if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      const from = meant && 'value' in meant ? meant.value : (value ?? 0);
      const by = (event.key === 'ArrowUp' ? step : -step) * (event.shiftKey ? FAR : 1);
      setTyped(null);
      onSet(Math.min(Math.max(Number((from + by).toPrecision(15)), min), max));
    }
  };
  return (
    <span className={`figure-field ${props.className ?? ''}`}>
      <Input
        role="spinbutton"
        size="small"
        aria-label={label}
        aria-invalid={trouble !== null}
        aria-describedby={id}
        {...(value === null ? {} : { 'aria-valuenow': value })}
        aria-valuetext={`${shown}${unit}`}
        inputMode="decimal"
        autoComplete="off"
        status={trouble === null ? '' : 'error'}
        value={typed ?? shown}
        suffix={suffix}
        {...(props.placeholder === undefined ? {} : { placeholder: props.placeholder })}
        {...(props.autoFocus ? { autoFocus: true } : {})}
        disabled={props.disabled ?? false}
        onFocus={(event) => event.target.select()}
        onChange={(event) => setTyped(event.target.value)}
        onKeyDown={onKeyDown}
        onBlur={hold}
      />
      <span
        id={id}
        className="figure-meant"
        role={trouble === null ? 'status' : 'alert'}
        data-trouble={trouble !== null}
      >
        {trouble ?? (told === null ? '' : `= ${told}${unit}`)}
      </span>
    </span>
  );
}

function within(reading: Reading<number>, min: number, max: number, write: (value: number) => string): Reading<number> {
  if ('trouble' in reading || (reading.value >= min && reading.value <= max)) return reading;
  if (max === Infinity) return { trouble: `It can’t be less than ${write(min)}.` };
  if (min === -Infinity) return { trouble: `It can’t be more than ${write(max)}.` };
  return { trouble: `It has to be from ${write(min)} to ${write(max)}.` };
}
