const blue = '#1d4f9c';
const red = '#c62c2c';
const yellow = '#f2c230';
const white = '#ffffff';
const black = '#161616';

type Shape = { fill: string; d: string };

/** Drawn on a field of 60 by 40. */
const flags: Record<string, { meaning: string; field: string; shapes: Shape[] }> = {
  A: { meaning: 'Diver down, keep clear', field: white, shapes: [{ fill: blue, d: 'M30 0H60L48 20L60 40H30Z' }] },
  B: { meaning: 'Dangerous goods', field: red, shapes: [] },
  D: { meaning: 'Manoeuvring with difficulty', field: yellow, shapes: [{ fill: blue, d: 'M0 8H60V32H0Z' }] },
  G: {
    meaning: 'I want a pilot',
    field: yellow,
    shapes: [{ fill: blue, d: 'M10 0H20V40H10ZM30 0H40V40H30ZM50 0H60V40H50Z' }],
  },
  H: { meaning: 'Pilot on board', field: white, shapes: [{ fill: red, d: 'M30 0H60V40H30Z' }] },
  L: { meaning: 'Stop at once', field: yellow, shapes: [{ fill: black, d: 'M30 0H60V20H30ZM0 20H30V40H0Z' }] },
  O: { meaning: 'Man overboard', field: red, shapes: [{ fill: yellow, d: 'M0 40V0L60 40Z' }] },
  Q: { meaning: 'Healthy, free pratique asked', field: yellow, shapes: [] },
  U: {
    meaning: 'You are running into danger',
    field: white,
    shapes: [{ fill: red, d: 'M0 0H30V20H0ZM30 20H60V40H30Z' }],
  },
};

type Props = { letter: string; size?: number };

/** A flag of the international code of signals. */
export function SignalFlag({ letter, size = 1 }: Props) {
  const flag = flags[letter];
  if (!flag) return <span className="tag">No flag for “{letter}”</span>;
  return (
    <figure style={{ margin: 0 }}>
      <svg
        className="flag"
        width={90 * size}
        height={60 * size}
        viewBox="0 0 60 40"
        role="img"
        aria-label={`Flag ${letter}: ${flag.meaning}`}
      >
        <rect width="60" height="40" fill={flag.field} />
        {flag.shapes.map((shape) => (
          <path key={shape.d} fill={shape.fill} d={shape.d} />
        ))}
      </svg>
      <figcaption className="soft">
        {letter} · {flag.meaning}
      </figcaption>
    </figure>
  );
}
