import { useState } from 'react';

export type Fee = { what: string; nights: number; each: number };
type Key = 'what' | 'nights' | 'each';

const money = new Intl.NumberFormat('en-GB', { style: 'currency', currency: 'EUR' });

/** What a stay costs, line by line; a heading sorts by its column. */
export function FeeTable({ fees, reduced = false }: { fees: Fee[]; reduced?: boolean }) {
  const [sort, setSort] = useState<{ key: Key; down: boolean } | null>(null);
  const factor = reduced ? 0.8 : 1;
  const rows = sort ? [...fees].sort((a, b) => (a[sort.key] < b[sort.key] ? -1 : 1) * (sort.down ? -1 : 1)) : fees;
  const heading = (key: Key, text: string) => (
    <th aria-sort={sort?.key === key ? (sort.down ? 'descending' : 'ascending') : undefined}>
      <button type="button" onClick={() => setSort({ key, down: sort?.key === key ? !sort.down : false })}>
        {text}
        {sort?.key === key ? (sort.down ? ' ↓' : ' ↑') : ''}
      </button>
    </th>
  );
  return (
    <div style={{ display: 'grid', gap: 12 }}>
      <div className="banner">From 1 April all fees rise by 4 %.</div>
      <table className="fees">
        <thead>
          <tr>
            {heading('what', 'Service')}
            {heading('nights', 'Units')}
            {heading('each', 'Each')}
            <th>Sum</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((fee) => (
            <tr key={fee.what}>
              <td>{fee.what}</td>
              <td>{fee.nights}</td>
              <td>{money.format(fee.each * factor)}</td>
              <td>{money.format(fee.nights * fee.each * factor)}</td>
            </tr>
          ))}
          {fees.length === 0 && (
            <tr>
              <td colSpan={4} className="soft">
                Nothing to pay.
              </td>
            </tr>
          )}
        </tbody>
        <tfoot>
          <tr>
            <td colSpan={3}>{reduced ? 'Total, members pay 80 %' : 'Total'}</td>
            <td>{money.format(fees.reduce((sum, fee) => sum + fee.nights * fee.each * factor, 0))}</td>
          </tr>
        </tfoot>
      </table>
    </div>
  );
}
