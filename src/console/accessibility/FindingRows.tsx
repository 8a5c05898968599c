/** All findings; only those in sight are drawn. */
import { useVirtualizer } from '@tanstack/react-virtual';
import { useEffect, useRef } from 'react';
import { severityOf } from '../../core/accessibility/finding.ts';
import type { ListedFinding } from '../../core/accessibility/listing.ts';
import { ruleOf, type Severity } from '../../core/accessibility/rules.ts';
import { shortName } from '../../core/look/look.ts';

type Props = {
  findings: readonly ListedFinding[];
  chosen: ListedFinding;
  keyOf(finding: ListedFinding): string;
  onChoose(finding: ListedFinding): void;
};

const rowHeight = 52;

/** A shape for each severity, so that colour never says it alone. */
const marks: Record<Severity, [shape: string, tone: string]> = {
  severe: ['■', 'text-failed'],
  moderate: ['◆', 'text-changed'],
  minor: ['●', 'text-new'],
};

export function SeverityMark({ severity }: { severity: Severity }) {
  const [shape, tone] = marks[severity];
  return (
    <span className={`text-right whitespace-nowrap ${tone}`}>
      <span aria-hidden="true">{shape}</span> {severity}
    </span>
  );
}

export function FindingRows({ findings, chosen, keyOf, onChoose }: Props) {
  const area = useRef<HTMLDivElement>(null);
  const rows = useVirtualizer({
    count: findings.length,
    getScrollElement: () => area.current,
    estimateSize: () => rowHeight,
    overscan: 12,
  });
  const at = findings.indexOf(chosen);
  useEffect(() => rows.scrollToIndex(at), [at, rows]);
  return (
    <div ref={area} className="min-h-0 flex-1 overflow-y-auto" role="listbox" aria-label="Findings">
      <div className="relative w-full" style={{ height: rows.getTotalSize() }}>
        {rows.getVirtualItems().map(({ index, start }) => {
          const finding = findings[index]!;
          const isChosen = finding === chosen;
          const { standing, certain, component, element, rule } = finding;
          return (
            <button
              key={keyOf(finding)}
              type="button"
              role="option"
              aria-selected={isChosen}
              tabIndex={-1}
              className={`absolute left-0 grid w-full grid-cols-[1fr_auto] gap-x-3 px-4 py-2 text-left ${
                isChosen ? 'bg-wash' : 'hover:bg-well'
              }`}
              style={{ transform: `translateY(${start}px)`, height: rowHeight }}
              onClick={() => onChoose(finding)}
            >
              <span className="truncate font-medium">{ruleOf(rule).title}</span>
              <SeverityMark severity={severityOf(finding)} />
              <span className="truncate text-soft">
                {shortName(component)}: {element}
              </span>
              <span className="text-right whitespace-nowrap text-soft">
                {standing.is === 'new' ? (certain ? '' : 'please look') : standing.is}
              </span>
            </button>
          );
        })}
      </div>
    </div>
  );
}
