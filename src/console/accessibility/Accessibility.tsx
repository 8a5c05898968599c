/** What the accessibility of the looks lacks: all findings, the worst first, and one of them with its picture. */
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useAddress } from '../useAddress.ts';
import type { ProjectInfo } from '../../core/api/api.ts';
import { findingKey } from '../../core/accessibility/finding.ts';
import type { FindingList, ListedFinding } from '../../core/accessibility/listing.ts';
import { service } from '../data.ts';
import { useKeys } from '../keys.ts';
import { Blank, Trouble, Waiting } from '../parts/Blank.tsx';
import { Button } from '../parts/Button.tsx';
import { Choice } from '../parts/Choice.tsx';
import { Wrong } from '../parts/Wrong.tsx';
import { site } from '../site.ts';
import { FindingRows } from './FindingRows.tsx';
import { FindingView } from './FindingView.tsx';
import { useTitle } from '../title.ts';

const keyOf = (finding: ListedFinding): string => `${finding.component} ${findingKey(finding)}`;

export function Accessibility({ project }: { project: ProjectInfo }) {
  useTitle('Accessibility');
  const list = useQuery({ queryKey: ['accessibility'], queryFn: () => service.accessibility() });
  if (list.isPending) return <Waiting what="Fetching what was found…" />;
  if (list.isError) return <Trouble error={list.error} />;
  if (list.data.findings.length === 0)
    return (
      <Blank title="Nothing was found">
        Every look that was run is looked at where it ends. What a machine cannot tell is not among it.
      </Blank>
    );
  return <Desk list={list.data} project={project} />;
}

type Shown = 'new' | 'all';

function Desk({ list, project }: { list: FindingList; project: ProjectInfo }) {
  const [query, set] = useAddress();
  const fresh = list.findings.filter(({ standing }) => standing.is === 'new');
  const shown: Shown = query.get('show') === 'all' || fresh.length === 0 ? 'all' : 'new';
  const findings = shown === 'all' ? list.findings : fresh;
  const chosen = findings.find((one) => keyOf(one) === query.get('finding')) ?? findings[0]!;
  const move = (by: number): void => {
    const next = findings[findings.indexOf(chosen) + by];
    if (next) set({ finding: keyOf(next) });
  };
  useKeys({ ArrowDown: () => move(1), ArrowUp: () => move(-1) });
  return (
    <div className="grid h-full grid-cols-[minmax(320px,32vw)_1fr]">
      <div className="flex min-h-0 flex-col border-r border-rule">
        <div className="shrink-0 border-b border-rule px-4 py-3">
          <div className="flex items-center gap-3">
            <h1 className="text-[14px] font-semibold">Accessibility</h1>
            <span className="flex-1" />
            <Choice
              label="Which findings"
              value={shown}
              options={[
                { value: 'new', label: `New ${fresh.length}`, disabled: fresh.length === 0 },
                { value: 'all', label: `All ${list.findings.length}` },
              ]}
              onChoose={(value) => set({ show: value })}
            />
          </div>
          <Standing list={list} fresh={fresh.length} />
        </div>
        <FindingRows
          findings={findings}
          chosen={chosen}
          keyOf={keyOf}
          onChoose={(finding) => set({ finding: keyOf(finding) })}
        />
      </div>
      <FindingView key={keyOf(chosen)} finding={chosen} project={project} />
    </div>
  );
}

/** What new findings come to, and how a project begins to fail for them. */
function Standing({ list: { known, failsOn }, fresh }: { list: FindingList; fresh: number }) {
  const queries = useQueryClient();
  const adopt = useMutation({
    mutationFn: () => service.adoptFindings(),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['accessibility'] }),
  });
  const says =
    failsOn === null ? 'New findings fail no look yet.' : `New findings that are ${failsOn} or worse fail their looks.`;
  return (
    <div className="mt-2 text-soft">
      <p>{says}</p>
      {!site && fresh > 0 && (
        <Button className="mt-2" disabled={adopt.isPending} onClick={() => adopt.mutate()}>
          {known === null ? 'Take all of these as known' : 'Take the new ones as known, too'}
        </Button>
      )}
      {adopt.isError && <Wrong error={adopt.error} className="mt-1" />}
    </div>
  );
}
