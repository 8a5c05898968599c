/** All sources with how much of them is run; only those in sight are drawn. */
import {
  coverageKinds,
  type CoverageReport,
  type FileCoverage,
  type Part,
  percentOf,
  percentText,
  shortfallText,
} from '../../core/coverage/report.ts';
import { counted } from '../../core/text/counted.ts';
import { OptionList } from '../parts/OptionList.tsx';

type Props = {
  report: CoverageReport;
  files: readonly FileCoverage[];
  chosen: string;
  onChoose(path: string): void;
};

const rowHeight = 44;

/** A share as a bar; what is left out is hatched, so that it is seen without colours, too. */
export function Bar({ part }: { part: Part }) {
  return (
    <span className="hatched block h-1.5 w-full overflow-hidden rounded-full border border-rule" aria-hidden="true">
      <span className="block h-full bg-accent" style={{ width: `${percentOf(part)}%` }} />
    </span>
  );
}

export function Files({ report, files, chosen, onChoose }: Props) {
  const { total, looks, run, uncounted, shortfalls, notes } = report;
  return (
    <div className="flex min-h-0 flex-col border-r border-rule">
      <div className="shrink-0 border-b border-rule px-4 py-3">
        <h1 className="mb-2 text-[14px] font-semibold">Coverage</h1>
        <dl className="grid grid-cols-3 gap-3">
          {coverageKinds.map((kind) => (
            <div key={kind}>
              <dt className="text-soft">{kind}</dt>
              <dd className="text-[15px] font-semibold tabular-nums">{percentText(total[kind])}</dd>
              <Bar part={total[kind]} />
            </div>
          ))}
        </dl>
        <p className="mt-2 text-soft">
          {counted(looks, 'look')} of run {run}, {counted(files.length, 'source')}
          {uncounted > 0 && `; ${counted(uncounted, 'result')} could not be counted`}
        </p>
        {shortfalls.map((one) => (
          <p key={shortfallText(one)} className="mt-1 text-failed">
            ✗ {shortfallText(one)}
          </p>
        ))}
        {notes.map((note) => (
          <p key={note} className="mt-1 text-soft">
            {note}
          </p>
        ))}
      </div>
      <OptionList
        label="Sources"
        entries={files}
        at={files.findIndex(({ path }) => path === chosen)}
        rowHeight={rowHeight}
        keyOf={({ path }) => path}
        onChoose={({ path }) => onChoose(path)}
        shape="grid grid-cols-[1fr_auto] gap-x-3 px-4 py-1.5"
        render={(file, isChosen) => <Row file={file} isChosen={isChosen} />}
      />
    </div>
  );
}

function Row({ file, isChosen }: { file: FileCoverage; isChosen: boolean }) {
  const folder = file.path.slice(0, file.path.lastIndexOf('/') + 1);
  return (
    <>
      <span className="truncate" title={file.path}>
        <span className="text-soft">{folder}</span>
        <span className={isChosen ? 'font-semibold' : ''}>{file.path.slice(folder.length)}</span>
      </span>
      <span className="tabular-nums" title="lines, branches, functions">
        {percentText(file.lines)}
        <span className="text-soft">
          {' '}
          · {percentText(file.branches)} · {percentText(file.functions)}
        </span>
      </span>
      <span className="col-span-2 pt-1">
        <Bar part={file.lines} />
      </span>
    </>
  );
}
