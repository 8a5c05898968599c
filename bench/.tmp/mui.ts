import { connect } from '../../src/client/client.ts';
import { startService } from '../../src/service/service.ts';
import { cpSync, readFileSync, writeFileSync, mkdtempSync, rmSync, symlinkSync } from 'node:fs';
import { join } from 'node:path';
import { runToEnd } from '../workshop.ts';
const folder = mkdtempSync('bench/.tmp/mui-');
cpSync('test/kits/material', folder, { recursive: true, filter: (p) => !/node_modules|\.sguardo|baselines/.test(p) });
symlinkSync(`${process.cwd()}/test/kits/node_modules`, join(folder, 'node_modules'));
const service = await startService({ config: `${process.cwd()}/${folder}/sguardo.config.ts` });
const client = connect(service.url);
const env = { environments: [(await client.project()).environments[0]!.name] };
let r = await runToEnd(client, { ...env, patterns: ['Controls', 'Data'] }); console.log(r.tally, r.problems.map((p) => p.message));
await client.decide({ kind: 'approve', all: true });
const frame = readFileSync(join(folder, 'sguardo.frame.tsx'), 'utf8');
for (const [name, text] of [['colour', frame.replace("main: '#0b5563'", "main: '#8b1563'")], ['spacing', frame.replace("createTheme({", "createTheme({ spacing: 10,")], ['font', frame.replace("fontFamily: 'DejaVu Sans'", "fontFamily: 'DejaVu Sans', fontSize: 16")]] as const) {
  writeFileSync(join(folder, 'sguardo.frame.tsx'), text);
  let t = Date.now();
  r = await runToEnd(client, { ...env, patterns: ['Controls', 'Data'] });
  const list = await client.causes();
  console.log('==', name, r.tally, Date.now() - t, 'ms;', list.causes.length, 'causes behind', list.changes);
  for (const c of list.causes.slice(0, 12)) console.log('  ', c.kind, c.proof, c.captures.length, c.title, c.place);
  console.log(list.unexplained.slice(0, 3));
  const first = list.causes[0]?.captures[0];
  if (first) { t = Date.now(); const e = await client.edits(first.result, first.capture); console.log(Date.now() - t, 'ms', e.hunks, e.note, e.edits.slice(0, 3).map((x) => [x.proved.map((h) => `${h.file}:${h.line}`), x.note])); }
}
await service.close(); rmSync(folder, { recursive: true }); process.exit(0);
