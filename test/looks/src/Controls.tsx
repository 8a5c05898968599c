import { useState } from 'react';

export type ControlsProps = {
  onKey?(key: string, modifiers: string): void;
  onClick?(trusted: boolean, clicks: number): void;
  onSend?(value: string): void;
};

/** Every kind of control that a script can use. */
export function Controls({ onKey, onClick, onSend }: ControlsProps) {
  const [name, setName] = useState('');
  const [hovered, setHovered] = useState(false);
  const [late, setLate] = useState(false);
  return (
    <form
      aria-label="Controls"
      onSubmit={(event) => {
        event.preventDefault();
        onSend?.(name);
      }}
    >
      <label>
        Name{' '}
        <input
          value={name}
          onChange={(event) => setName(event.target.value)}
          onKeyDown={(event) => onKey?.(event.key, event.ctrlKey ? 'Control' : '')}
        />
      </label>
      <p>Hello {name || 'nobody'}</p>
      <label>
        Notes <textarea defaultValue="first" />
      </label>
      <label>
        Month <input type="date" defaultValue="2026-03-02" />
      </label>
      <label>
        Tide
        <select defaultValue="low">
          <option value="low">Low water</option>
          <option value="slack" disabled>
            Slack
          </option>
          <option value="high">High water</option>
        </select>
      </label>
      <label>
        <input type="checkbox" /> Anchored
      </label>
      <label>
        <input type="radio" name="side" value="port" /> Port
      </label>
      <label>
        <input type="radio" name="side" value="starboard" /> Starboard
      </label>
      {/* biome-ignore lint/a11y/useSemanticElements: editable elements that are no form fields are used, too */}
      <div contentEditable suppressContentEditableWarning role="textbox" tabIndex={0} aria-label="Log">
        log
      </div>
      <button type="button" onClick={(event) => onClick?.(event.isTrusted, event.detail)}>
        Knock
      </button>
      <button type="button" onPointerEnter={() => setHovered(true)} onPointerLeave={() => setHovered(false)}>
        {hovered ? 'Pointed at' : 'Point here'}
      </button>
      <button type="button" onClick={() => setTimeout(() => setLate(true), 250)}>
        Later
      </button>
      {late && <output>It came</output>}
      <div style={{ height: 900 }} />
      <button type="submit">Send</button>
      <ul>
        <li>one</li>
        <li>two</li>
        <li data-testid="third">three</li>
      </ul>
    </form>
  );
}
