import type { ReactNode } from 'react';
import './src/frame.css';

export default function Frame({ children }: { children: ReactNode }) {
  return <div className="quay">{children}</div>;
}
