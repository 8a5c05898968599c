/** One component: its words, its looks, its props, and what is known of it. */
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { Link } from 'react-router';
import type { ProjectInfo } from '../../core/api/api.ts';
import { severities } from '../../core/accessibility/rule.ts';
import { percentText } from '../../core/coverage/report.ts';
import type { HandbookPage } from '../../core/handbook/page.ts';
import { service } from '../data.ts';
import { Trouble, Waiting } from '../parts/Blank.tsx';
import { EnvironmentChoice } from '../parts/EnvironmentChoice.tsx';
import { usePortion } from '../parts/usePortion.tsx';
import { LookPart } from './LookPart.tsx';
import { Prose } from './Prose.tsx';
import { PropsTable } from './PropsTable.tsx';
import { Section } from './Section.tsx';
import { tokensPage } from './tokensPage.ts';

/** Each has its picture, and what can be done with it. */
const looksAtOnce = 60;

type Props = { component: string; project: ProjectInfo; onOpen(page: string): void };

export function Page({ component, project, onOpen }: Props) {
  const page = useQuery({ queryKey: ['handbook', component], queryFn: () => service.handbookPage(component) });
  if (page.isPending) return <Waiting what="Opening the page…" />;
  if (page.isError) return <Trouble error={page.error} />;
  return <Sheet page={page.data} project={project} onOpen={onOpen} />;
}

function Facts({ page }: { page: HandbookPage }) {
  const found = severities.filter((severity) => page.findings[severity] > 0);
  const { coverage, source } = page;
  return (
    <dl className="flex flex-wrap gap-x-8 gap-y-1 text-soft">
      <div className="flex gap-2">
        <dt>Accessibility</dt>
        <dd className="text-ink">
          <Link to="/accessibility?show=all" className="hover:underline">
            {found.length === 0
              ? 'nothing found'
              : found.map((severity) => `${page.findings[severity]} ${severity}`).join(', ')}
          </Link>
        </dd>
      </div>
      <div className="flex gap-2">
        <dt>Lines that looks run</dt>
        <dd className="text-ink tabular-nums">
          {coverage && source ? (
            <Link to={`/coverage?${new URLSearchParams({ file: source })}`} className="hover:underline">
              {percentText(coverage.lines)}
            </Link>
          ) : (
            'not counted'
          )}
        </dd>
      </div>
      <div className="flex min-w-0 gap-2">
        <dt>Source</dt>
        <dd className="truncate font-mono text-[11.5px] text-ink">{source ?? page.file}</dd>
      </div>
    </dl>
  );
}

function Outlets({ title, names }: { title: string; names: readonly string[] }) {
  if (names.length === 0) return null;
  return (
    <Section title={title}>
      <p className="flex flex-wrap gap-2">
        {names.map((name) => (
          <code key={name} className="rounded bg-well px-1.5 py-0.5 font-mono text-[11.5px]">
            {name}
          </code>
        ))}
      </p>
    </Section>
  );
}

function Sheet({ page, project, onOpen }: { page: HandbookPage; project: ProjectInfo; onOpen(page: string): void }) {
  const [environment, setEnvironment] = useState(project.environments[0]!.name);
  const { name, prose, proseFile, file, source, props, outlets, looks, tokens } = page;
  const { shown, more } = usePortion(looks, looksAtOnce);
  return (
    <article className="min-h-0 overflow-y-auto px-8 py-5">
      <header className="mb-3 flex items-baseline gap-4">
        <h2 className="text-[20px] font-semibold tracking-tight">{name}</h2>
        <span className="flex-1" />
        {project.environments.length > 1 && (
          <EnvironmentChoice
            names={project.environments.map((one) => one.name)}
            value={environment}
            onChoose={setEnvironment}
          />
        )}
      </header>
      {prose ? (
        <Prose text={prose} file={proseFile ?? source ?? file} />
      ) : (
        <p className="text-soft">
          Nobody has written about it yet. Put a comment before the component, or{' '}
          <code className="font-mono">{name}.md</code> beside it.
        </p>
      )}
      <div className="mt-3">
        <Facts page={page} />
      </div>
      <Section title="Looks">
        <div className="flex flex-wrap items-start gap-4">
          {shown.map((look) => (
            <LookPart key={look.look} look={look} file={file} environment={environment} project={project} />
          ))}
        </div>
        {more}
      </Section>
      <Section title="Props">
        <PropsTable rows={props} />
      </Section>
      <Outlets title="Events" names={outlets.events} />
      <Outlets title="Slots" names={outlets.slots} />
      {tokens.length > 0 && (
        <Section title="Tokens">
          <p className="flex flex-wrap gap-2">
            {tokens.map((token) => (
              <button
                key={token}
                type="button"
                onClick={() => onOpen(tokensPage)}
                className="rounded bg-well px-1.5 py-0.5 font-mono text-[11.5px] hover:text-accent"
              >
                {token}
              </button>
            ))}
          </p>
        </Section>
      )}
    </article>
  );
}
