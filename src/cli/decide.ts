/** `sguardo approve` and `sguardo reject`: decide about what the last run captured. */
import type { Command } from 'commander';
import pc from 'picocolors';
import type { Decided, DecisionRequest } from '../core/api/api.ts';
import { lookTitle } from '../core/look/look.ts';
import { counted } from '../core/text/counted.ts';
import { findService } from './find.ts';

export function addDecisions(program: Command): void {
  program
    .command('approve')
    .description("make the last run's captures the baselines")
    .argument(
      '[pattern...]',
      'only these looks: part of a component, name or file; Component/look for exactly one; * for anything',
    )
    .option('-a, --all', 'every look')
    .option('-w, --why <text>', 'the reason, kept in the history')
    .option('--unsteady', 'also captures that came out differently from time to time')
    .option('--json', 'print one JSON document instead of text')
    .addHelpText(
      'after',
      '\nExamples:\n  sguardo approve --all\n  sguardo approve BerthCard --why "new accent colour"\n  sguardo ' +
        'approve "asks before releasing"',
    )
    .action((patterns: string[], options: { all?: boolean; why?: string; unsteady?: boolean; json?: boolean }) => {
      const { all, why, unsteady } = options;
      return decide({ kind: 'approve', patterns, all, why, unsteady }, options.json === true);
    });
  program
    .command('reject')
    .description("mark the last run's changes as unwanted; they stay changed until the code is fixed")
    .argument(
      '[pattern...]',
      'only these looks: part of a component, name or file; Component/look for exactly one; * for anything',
    )
    .option('-a, --all', 'every look that changed')
    .requiredOption('-w, --why <text>', 'what is wrong with it')
    .option('--json', 'print one JSON document instead of text')
    .addHelpText('after', '\nExample:\n  sguardo reject FeeTable --why "the banner must not push the table down"')
    .action((patterns: string[], options: { all?: boolean; why: string; json?: boolean }) =>
      decide({ kind: 'reject', patterns, all: options.all, why: options.why }, options.json === true),
    );
}

async function decide(request: DecisionRequest, json: boolean): Promise<void> {
  const found = await findService(process.cwd());
  try {
    const decided = await found.client.decide(request);
    process.stdout.write(json ? `${JSON.stringify(decided, null, 2)}\n` : text(request.kind, decided));
  } finally {
    await found.release();
  }
}

function text(kind: DecisionRequest['kind'], { decided, already, unfinished }: Decided): string {
  const done = kind === 'approve' ? 'approved' : 'rejected';
  const lines = decided
    .slice(0, 30)
    .map(
      ({ component, look, environment, capture }) =>
        `${kind === 'approve' ? pc.green('✓') : pc.red('✗')} ${lookTitle(component, look)} ` +
        `${pc.dim(`· ${environment} · ${capture}`)}`,
    );
  if (decided.length > 30) lines.push(pc.dim(`  and ${decided.length - 30} more`));
  if (decided.length > 0)
    lines.push(
      `${counted(decided.length, 'capture')} ${done}.` +
        (already > 0 ? ` ${counted(already, 'capture was', 'captures were')} already.` : ''),
    );
  else if (already > 0) lines.push(`Nothing to do: ${counted(already, 'capture is', 'captures are')} already ${done}.`);
  else lines.push(kind === 'approve' ? 'Nothing to approve.' : 'Nothing to reject: none of these looks has changed.');
  if (unfinished.length > 0)
    lines.push(
      `${pc.yellow('Left out')}, because they did not finish: ` +
        `${unfinished.slice(0, 5).join(', ')}${unfinished.length > 5 ? ` and ${unfinished.length - 5} more` : ''}.`,
    );
  return `${lines.join('\n')}\n`;
}
