/** The props of a component: what each is, and what counts when it is not given. */
import type { PropRow } from '../../core/handbook/page.ts';

const head = 'border-b border-rule py-1 pr-4 text-left font-medium text-soft';
const cell = 'border-b border-rule py-1.5 pr-4 align-top';

export function PropsTable({ rows }: { rows: readonly PropRow[] }) {
  if (rows.length === 0) return <p className="text-soft">It takes none, or its source says nothing of them.</p>;
  return (
    <table className="w-full max-w-[110ch] border-collapse">
      <thead>
        <tr>
          <th className={head}>Name</th>
          <th className={head}>Type</th>
          <th className={head}>If not given</th>
          <th className={head}>What it is</th>
        </tr>
      </thead>
      <tbody>
        {rows.map(({ name, type, about, usual, isRequired }) => (
          <tr key={name}>
            <td className={`${cell} font-mono text-[11.5px] font-semibold whitespace-nowrap`}>{name}</td>
            <td className={`${cell} font-mono text-[11.5px] break-words`}>{type}</td>
            <td className={`${cell} font-mono text-[11.5px]`}>
              {isRequired ? <span className="font-sans text-soft">required</span> : (usual ?? '')}
            </td>
            <td className={`${cell} whitespace-pre-line`}>{about}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
