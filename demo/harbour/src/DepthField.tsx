import { useId, useState } from 'react';

type Props = {
  label: string;
  /** Metres, as typed. */
  initial?: string;
  least?: number;
  most: number;
  disabled?: boolean;
  onDepth(metres: number | null): void;
};

/** What is wrong with a depth as typed, or null. */
export function wrongWith(text: string, least: number, most: number): string | null {
  if (text === '') return null;
  const metres = Number(text);
  if (Number.isNaN(metres)) return 'Not a number.';
  if (metres < least) return `At least ${least} m.`;
  if (metres > most) return `Only ${most} m of water at this berth.`;
  return null;
}

/** A depth in metres: a number, its unit, and a word when there is not enough water for it. */
export function DepthField({ label, initial = '', least = 0.2, most, disabled, onDepth }: Props) {
  const id = useId();
  const [text, setText] = useState(initial);
  const wrong = wrongWith(text, least, most);
  return (
    <div className="field" data-wrong={wrong ? '' : undefined}>
      <label htmlFor={id}>{label}</label>
      <div className="box">
        <input
          id={id}
          type="number"
          step="0.1"
          value={text}
          disabled={disabled}
          aria-invalid={wrong !== null}
          aria-describedby={`${id}-wrong`}
          onChange={(event) => {
            setText(event.target.value);
            onDepth(
              event.target.value === '' || wrongWith(event.target.value, least, most)
                ? null
                : Number(event.target.value),
            );
          }}
        />
        <span className="unit">m</span>
      </div>
      <span className="wrong" id={`${id}-wrong`} role={wrong ? 'alert' : undefined}>
        {wrong}
      </span>
    </div>
  );
}
