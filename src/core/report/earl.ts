/** Findings of accessibility as EARL 1.0 (https://www.w3.org/TR/EARL10-Schema/), in JSON-LD. */
import { severityOf } from '../accessibility/finding.ts';
import type { ListedFinding } from '../accessibility/listing.ts';
import { criterionUrl, ruleOf } from '../accessibility/rules.ts';
import { type ReportData, titleOf } from './report.ts';

/** One assertion for each finding: failed where a machine is certain, cantTell where a person has to look. */
export function earlOf({ version, run, project }: ReportData, findings: readonly ListedFinding[]): object {
  const graph = findings.map((finding) => {
    const { rule, certain, element, what, component, sightings, standing } = finding;
    const { title, criterion } = ruleOf(rule);
    return {
      '@type': 'Assertion',
      assertedBy: '_:sguardo',
      mode: 'earl:automatic',
      subject: {
        '@type': 'TestSubject',
        title: sightings[0] ? titleOf({ component, ...sightings[0] }) : component,
        source: `${project}/${component}`,
      },
      test: {
        '@type': 'TestCriterion',
        '@id': `sguardo:${rule}`,
        title,
        ...(criterion !== null && { isPartOf: criterionUrl(criterion) }),
      },
      result: {
        '@type': 'TestResult',
        outcome: certain ? 'earl:failed' : 'earl:cantTell',
        description: `${severityOf(finding)}: ${what}${standing.is === 'new' ? '' : ` (${standing.is})`}`,
        pointer: element,
        date: run.finished ?? run.started,
      },
    };
  });
  return {
    '@context': {
      '@vocab': 'http://www.w3.org/ns/earl#',
      earl: 'http://www.w3.org/ns/earl#',
      dct: 'http://purl.org/dc/terms/',
      sguardo: 'urn:sguardo:rule:',
      title: 'dct:title',
      description: 'dct:description',
      source: 'dct:source',
      date: 'dct:date',
      isPartOf: { '@id': 'dct:isPartOf', '@type': '@id' },
      outcome: { '@type': '@id' },
      mode: { '@type': '@id' },
      assertedBy: { '@type': '@id' },
    },
    '@graph': [{ '@id': '_:sguardo', '@type': ['Assertor', 'Software'], title: `Sguardo ${version}` }, ...graph],
  };
}
