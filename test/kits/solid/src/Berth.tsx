import { createSignal } from 'solid-js';
export function Berth(props: { name: string; tone?: 'calm' | 'gale'; onRelease(berth: string): void }) {
  const [asked, ask] = createSignal(0);
  return (
    <section aria-label="Berth">
      <h2>
        {props.name} {props.tone ?? 'calm'}
      </h2>
      <button
        type="button"
        onClick={() => {
          ask(asked() + 1);
          props.onRelease(props.name);
        }}
      >
        Release
      </button>
      <p>asked {asked()}</p>
    </section>
  );
}
