import type { ReactNode } from 'react';
import './src/harbour.css';

/** Around every look: the kit's styles, and the paper that its components lie on. */
export default function Frame({ children }: { children: ReactNode }) {
  return <main className="sheet">{children}</main>;
}
