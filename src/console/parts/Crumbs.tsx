/** Where one is, at the head of a page about one look: the way back to the board, and to its component there. */
import { Link } from 'react-router';
import { shortName } from '../../core/look/look.ts';

const slash = <span className="text-rule">/</span>;

export function Crumbs({ component }: { component: string }) {
  const name = shortName(component);
  return (
    <>
      <Link to="/" className="text-soft hover:text-ink" title="Back to the board (Esc)">
        Board
      </Link>
      {slash}
      <Link to={`/?q=${encodeURIComponent(name)}`} className="text-soft hover:text-ink">
        {name}
      </Link>
      {slash}
    </>
  );
}
