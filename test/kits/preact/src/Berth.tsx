import { useState } from 'preact/hooks';
export function Berth({
  name,
  tone = 'calm',
  onRelease,
}: {
  name: string;
  tone?: 'calm' | 'gale';
  onRelease(berth: string): void;
}) {
  const [asked, ask] = useState(0);
  return (
    <section aria-label="Berth">
      <h2>
        {name} {tone}
      </h2>
      <button
        type="button"
        onClick={() => {
          ask(asked + 1);
          onRelease(name);
        }}
      >
        Release
      </button>
      <p>asked {asked}</p>
    </section>
  );
}
