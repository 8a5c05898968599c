/** What is wrong in a run as SARIF 2.1.0: failures, at their lines, and findings of accessibility. */
import { findingKey, severityOf } from '../accessibility/finding.ts';
import type { ListedFinding } from '../accessibility/listing.ts';
import { criterionUrl, type RuleId, ruleOf } from '../accessibility/rules.ts';
import type { ResultSummary } from '../run/run.ts';
import { isWrong, placeIn, reasonOf, type ReportData, type ReportPlace, titleOf } from './report.ts';

type ReportingDescriptor = {
  id: string;
  shortDescription: { text: string };
  help?: { text: string };
  helpUri?: string;
};

type SarifResult = {
  ruleId: string;
  level: 'error' | 'warning' | 'note';
  message: { text: string };
  locations: object[];
  partialFingerprints: Record<string, string>;
  suppressions?: { kind: string; justification: string }[];
};

const locationAt = ({ file, line, column }: ReportPlace): object => ({
  physicalLocation: {
    artifactLocation: { uri: file.split('/').map(encodeURIComponent).join('/'), uriBaseId: 'PROJECT' },
    ...(line !== null && { region: { startLine: line, ...(column !== undefined && { startColumn: column }) } }),
  },
});

function resultOf(data: ReportData, result: ResultSummary): SarifResult {
  const { problem } = result;
  const text = [`${titleOf(result)}: ${problem?.message ?? reasonOf(result)}`, ...(problem?.found ?? [])];
  return {
    ruleId: problem?.code ?? `look-${result.verdict}`,
    level: result.verdict === 'changed' || result.verdict === 'new' ? 'warning' : 'error',
    message: { text: [...text, ...(problem ? [problem.remedy] : [])].join('\n') },
    locations: [locationAt(placeIn(data, result))],
    partialFingerprints: { look: `${result.component}/${result.look}/${result.environment}` },
  };
}

const levels = { severe: 'error', moderate: 'warning', minor: 'note' } as const;

/** A finding of accessibility; what is accepted or known is suppressed. */
function findingResult({ lineOf }: ReportData, finding: ListedFinding): SarifResult {
  const { rule, element, what, component, file, sightings, certain, standing } = finding;
  const [first] = sightings;
  const isKept = standing.is !== 'new';
  const why =
    standing.is === 'accepted' ? standing.why : standing.is === 'known' ? `known since ${standing.since}` : '';
  return {
    ruleId: rule,
    level: certain ? levels[severityOf(finding)] : 'note',
    message: {
      text: `${first ? titleOf({ component, ...first }) : component}: ${element}: ${what}\n${ruleOf(rule).fix}`,
    },
    locations: [locationAt({ file, line: first ? lineOf({ file, look: first.look }) : null })],
    partialFingerprints: { finding: `${component} ${findingKey(finding)}` },
    ...(isKept && { suppressions: [{ kind: 'external', justification: why }] }),
  };
}

const findingRule = (id: RuleId): ReportingDescriptor => {
  const { title, why, fix, criterion } = ruleOf(id);
  return {
    id,
    shortDescription: { text: title },
    help: { text: `${why} ${fix}` },
    ...(criterion !== null && { helpUri: criterionUrl(criterion) }),
  };
};

/** `script-threw`: “Script threw”. */
const inWords = (id: string): string => id[0]!.toUpperCase() + id.slice(1).replaceAll('-', ' ');

export function sarifOf(data: ReportData, findings: readonly ListedFinding[]): object {
  const wrong = data.results.filter((result) => isWrong(result, data.isStrict)).map((one) => resultOf(data, one));
  const own = [...new Set(wrong.map(({ ruleId }) => ruleId))].map((id) => ({
    id,
    shortDescription: { text: inWords(id) },
  }));
  const broken = [...new Set(findings.map(({ rule }) => rule))].map(findingRule);
  return {
    $schema: 'https://json.schemastore.org/sarif-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: { driver: { name: 'Sguardo', version: data.version, rules: [...own, ...broken] } },
        columnKind: 'utf16CodeUnits',
        results: [...wrong, ...findings.map((one) => findingResult(data, one))],
      },
    ],
  };
}
