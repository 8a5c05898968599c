/** One of the project's environments: all of them in sight, or in a list where they are too many for that. */
import { Choice } from './Choice.tsx';

/** So many fit beside what else stands in a row. */
const mostInSight = 6;

type Props = { names: readonly string[]; value: string; onChoose(name: string): void };

export function EnvironmentChoice({ names, value, onChoose }: Props) {
  if (names.length <= mostInSight)
    return (
      <Choice
        label="Environment"
        value={value}
        options={names.map((name) => ({ value: name, label: name }))}
        onChoose={onChoose}
      />
    );
  return (
    <select
      aria-label="Environment"
      value={value}
      onChange={({ target }) => onChoose(target.value)}
      className="h-7 max-w-48 rounded-md border border-rule bg-sheet px-2"
    >
      {names.map((name) => (
        <option key={name}>{name}</option>
      ))}
    </select>
  );
}
