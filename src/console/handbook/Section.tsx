/** A part of a page of the handbook, with its title. */
import type { ReactNode } from 'react';

export const Section = ({ title, children }: { title: string; children: ReactNode }) => (
  <section className="mt-6">
    <h3 className="mb-2 text-[13.5px] font-semibold">{title}</h3>
    {children}
  </section>
);
