import './headless.css';
import type { ReactNode } from 'react';

export default function Frame({ children }: { children: ReactNode }) {
  return <main>{children}</main>;
}
