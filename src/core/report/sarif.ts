/** What is wrong in a run as SARIF 2.1.0: failures, at their lines. */
import type { ResultSummary } from '../run/run.ts';
import { isWrong, placeOf, reasonOf, type ReportData, titleOf } from './report.ts';

type Rule = { id: string; shortDescription: { text: string }; helpUri?: string };

export type SarifResult = {
  ruleId: string;
  level: 'error' | 'warning' | 'note';
  message: { text: string };
  locations: object[];
  partialFingerprints: Record<string, string>;
};

export const locationAt = (file: string, line: number | null): object => ({
  physicalLocation: {
    artifactLocation: { uri: file.split('/').map(encodeURIComponent).join('/'), uriBaseId: 'PROJECT' },
    ...(line !== null && { region: { startLine: line } }),
  },
});

function resultOf(result: ResultSummary): SarifResult {
  const { file, line } = placeOf(result);
  const { problem } = result;
  const text = [`${titleOf(result)}: ${problem?.message ?? reasonOf(result)}`, ...(problem?.found ?? [])];
  return {
    ruleId: problem?.code ?? `look-${result.verdict}`,
    level: result.verdict === 'changed' || result.verdict === 'new' ? 'warning' : 'error',
    message: { text: [...text, ...(problem ? [problem.remedy] : [])].join('\n') },
    locations: [locationAt(file, line)],
    partialFingerprints: { look: `${result.component}/${result.look}/${result.environment}` },
  };
}

/** `more` are results of other kinds, with their rules. */
export function sarifOf(data: ReportData, more: { rules: Rule[]; results: SarifResult[] }): object {
  const wrong = data.results.filter((result) => isWrong(result, data.isStrict)).map(resultOf);
  const own = [...new Set(wrong.map(({ ruleId }) => ruleId))].map((id) => ({ id, shortDescription: { text: id } }));
  return {
    $schema: 'https://json.schemastore.org/sarif-2.1.0.json',
    version: '2.1.0',
    runs: [
      {
        tool: { driver: { name: 'Sguardo', version: data.version, rules: [...own, ...more.rules] } },
        columnKind: 'utf16CodeUnits',
        results: [...wrong, ...more.results],
      },
    ],
  };
}
