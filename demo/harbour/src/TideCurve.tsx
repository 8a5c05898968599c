export type Reading = { hour: number; metres: number };

type Props = {
  readings: Reading[];
  /** Draught of the vessel that wants in, in metres: hours with less water are below the line. */
  draught?: number;
  /** Hour of the day that it is now. */
  now?: number;
};

const width = 520;
const height = 200;
const left = 40;
const bottom = 24;
const top = 5;

/** The day's tide as a curve, with the keel's line across it. */
export function TideCurve({ readings, draught, now }: Props) {
  if (readings.length === 0) return <p className="soft">No tide readings for this day.</p>;
  const highest = Math.max(top, ...readings.map(({ metres }) => metres));
  const x = (hour: number) => left + (hour / 24) * (width - left - 12);
  const y = (metres: number) => height - bottom - (metres / highest) * (height - bottom - 12);
  const path = readings
    .map(({ hour, metres }, i) => `${i === 0 ? 'M' : 'L'}${x(hour).toFixed(1)} ${y(metres).toFixed(1)}`)
    .join(' ');
  const first = readings[0]!;
  const last = readings[readings.length - 1]!;
  const high = readings.reduce((best, reading) => (reading.metres > best.metres ? reading : best));
  return (
    <svg
      className="tide"
      width={width}
      height={height}
      role="img"
      aria-label={`Tide, high water ${high.metres} m at ${high.hour}:00`}
      data-testid="tide-curve"
    >
      {[0, 1, 2, 3, 4].map((metres) => (
        <g key={metres}>
          <line className="grid" x1={left} x2={width - 12} y1={y(metres)} y2={y(metres)} />
          <text x={8} y={y(metres) + 4}>
            {metres} m
          </text>
        </g>
      ))}
      <path className="water" d={`${path} L${x(last.hour)} ${y(0)} L${x(first.hour)} ${y(0)} Z`} />
      <path className="curve" d={path} />
      {draught !== undefined && <line className="keel" x1={left} x2={width - 12} y1={y(draught)} y2={y(draught)} />}
      {now !== undefined && (
        <circle
          transform={`translate(${x(now)} ${y(readings.find(({ hour }) => hour === now)?.metres ?? 0)})`}
          r={5}
          fill="var(--ink)"
        />
      )}
      {[0, 6, 12, 18, 24].map((hour) => (
        <text key={hour} x={x(hour) - 8} y={height - 8}>
          {String(hour).padStart(2, '0')}
        </text>
      ))}
    </svg>
  );
}
