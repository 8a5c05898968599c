/** All findings; only those in sight are drawn. */
import { severityOf } from '../../core/accessibility/finding.ts';
import type { ListedFinding } from '../../core/accessibility/listing.ts';
import type { Severity } from '../../core/accessibility/rule.ts';
import { ruleOf } from '../../core/accessibility/rules.ts';
import { shortName } from '../../core/look/look.ts';
import { OptionList } from '../parts/OptionList.tsx';

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

function Row({ finding }: { finding: ListedFinding }) {
  const { standing, certain, component, element, rule } = finding;
  return (
    <>
      <span className="truncate font-medium">{ruleOf(rule).title}</span>
      <SeverityMark severity={severityOf(finding)} />
      <span className="truncate text-soft">
        {shortName(component)}: {element}
      </span>
      <span className="text-right whitespace-nowrap text-soft">
        {standing.is === 'new' ? (certain ? '' : 'please look') : standing.is}
      </span>
    </>
  );
}

export const FindingRows = ({ findings, chosen, keyOf, onChoose }: Props) => (
  <OptionList
    label="Findings"
    entries={findings}
    at={findings.indexOf(chosen)}
    rowHeight={rowHeight}
    keyOf={keyOf}
    onChoose={onChoose}
    shape="grid grid-cols-[1fr_auto] gap-x-3 px-4 py-2"
    render={(finding) => <Row finding={finding} />}
  />
);
